import { redirect } from 'next/navigation';
import { openedCard, titleOfCard } from '@/app/request/opened-card';
import { seenOf } from '@/app/request/seen';
import { orNotFound } from '@/app/request/page-or-not-found';
import { applyHouseStyle } from '@/core/house';
import { dayOf } from '@/core/response';
import { CODES, HAND_OUTS } from '@/core/words';
import { systemClock } from '@/server/clock';
import { openCode } from '@/server/services/hand-outs/codes';
import { openBackdrop } from '@/server/services/pieces/backdrop';
import { openPass } from '@/server/services/pieces/pass';
import { openPiece } from '@/server/services/pieces/print';
import { openProfile } from '@/server/services/hand-outs/profile';
import { openSignature } from '@/server/services/hand-outs/signature';
import { openTag } from '@/server/services/hand-outs/tags';
import { CardHead } from '@/ui/card/card-head';
import { ProfileScreen } from '@/ui/hand-outs/sharing/profile-screen';
import { SignatureScreen } from '@/ui/hand-outs/signature-screen';
import { BackdropScreen } from '@/ui/paper/backdrop-screen';
import { PassScreen } from '@/ui/paper/pass-screen';
import { PaperScreen } from '@/ui/paper/paper-screen';
import { CodeScreen } from '@/ui/hand-outs/code-screen';
import { TagScreen } from '@/ui/tags/tag-screen';
import { settings } from '@/server/env';

export const generateMetadata = titleOfCard(HAND_OUTS.code);

/** One code of a card: its style, its proof, its files; or its mail signature. */
export default async function CodePage({ params }: { params: Promise<{ card: string; handOut: string }> }) {
  const { actor, card } = await openedCard(params);
  const { handOut } = await params;
  const given = card.handOuts.find(({ id }) => id === handOut.toLowerCase());
  if (given?.channel === 'signature') {
    // What rests has no signature to show; the list says that it does.
    if (card.state !== 'published' || given.state !== 'out') redirect(`/cards/${card.id}/hand-outs`);
    const opened = await orNotFound(given.id, (id) => openSignature(actor, id, systemClock));
    return (
      <>
        <CardHead card={card} turn="hand-outs" note={<span>{given.placement}</span>} />
        <SignatureScreen opened={opened} />
      </>
    );
  }
  if (given?.channel === 'print') {
    if (card.state !== 'published' || given.state !== 'out') redirect(`/cards/${card.id}/hand-outs`);
    const piece = await orNotFound(given.id, (id) => openPiece(actor, id, systemClock));
    return (
      <>
        <CardHead card={card} turn="hand-outs" note={<span>{given.placement}</span>} />
        <PaperScreen opened={piece} today={dayOf(systemClock.now(), actor.organisation.timeZone)} key={piece.id} />
      </>
    );
  }
  if (given?.channel === 'backdrop') {
    if (card.state !== 'published' || given.state !== 'out') redirect(`/cards/${card.id}/hand-outs`);
    const backdrop = await orNotFound(given.id, (id) => openBackdrop(actor, id, systemClock));
    return (
      <>
        <CardHead card={card} turn="hand-outs" note={<span>{given.placement}</span>} />
        <BackdropScreen opened={backdrop} key={backdrop.id} />
      </>
    );
  }
  if (given?.channel === 'pass') {
    if (card.state !== 'published' || given.state !== 'out') redirect(`/cards/${card.id}/hand-outs`);
    const pass = await orNotFound(given.id, (id) => openPass(actor, id, systemClock));
    return (
      <>
        <CardHead card={card} turn="hand-outs" note={<span>{given.placement}</span>} />
        <PassScreen opened={pass} key={pass.id} />
      </>
    );
  }
  if (given?.channel === 'tag') {
    const tag = await orNotFound(given.id, (id) => openTag(actor, id, systemClock));
    return (
      <>
        <CardHead card={card} turn="hand-outs" note={<span>{given.placement}</span>} />
        <TagScreen opened={tag} bench={settings().TAG_BENCH === 'on'} zone={actor.organisation.timeZone} key={tag.id} />
      </>
    );
  }
  if (given?.channel === 'profile') {
    if (card.state !== 'published' || given.state !== 'out') redirect(`/cards/${card.id}/hand-outs`);
    const profile = await orNotFound(given.id, (id) => openProfile(actor, id, systemClock));
    return (
      <>
        <CardHead card={card} turn="hand-outs" note={<span>{given.placement}</span>} />
        <ProfileScreen opened={profile} seen={await seenOf(profile.link)} key={profile.id} />
      </>
    );
  }
  const code = await orNotFound(handOut, (id) => openCode(actor, id, systemClock));
  const logo = card.record.details.find(({ kind }) => kind === 'logo');
  const marks = [
    ...(card.house?.logos.onLight ? [{ hash: card.house.logos.onLight.hash, word: CODES.houseLogo }] : []),
    ...(logo && 'picture' in logo ? [{ hash: logo.picture, word: CODES.ownLogo }] : []),
  ];
  const composition = card.revision ? applyHouseStyle(card.revision.composition, card.house) : null;
  return (
    <>
      <CardHead card={card} turn="hand-outs" note={<span>{code.placement}</span>} />
      {composition && <CodeScreen key={code.id} code={code} composition={composition} marks={marks} />}
    </>
  );
}
