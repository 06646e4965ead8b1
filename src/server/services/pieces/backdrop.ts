import { FIRST_BACKDROP, type Backdrop } from '@/core/backdrop';
import { leavingOf, privacyOf } from '@/core/card';
import { Refusal } from '@/core/errors';
import { writtenName } from '@/core/record';
import type { ShownBackdrop } from '@/core/shown';
import type { Clock } from '@/server/clock';
import { compute } from '@/server/compute';
import type { HandOutRow } from '@/server/db/hand-outs/hand-outs';
import { setBackdrop } from '@/server/db/hand-outs/print';
import { inTenant } from '@/server/db/pool';
import { files } from '@/server/files';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { textOf } from '@/server/services/hand-outs/drawing';
import { linkOf, plainName } from '@/server/services/hand-outs/own';
import { mayShow } from '@/server/services/media/pictures';
import type { PublishedCard } from '@/server/services/publishing/load-published';
import { withheldOf } from '@/server/services/publishing/prove-card';
import { noteTaken, takenOf } from '@/server/services/wild/note-copy';
import { ownOfChannel, ownPublished, piecePictures, plainCodeOf } from './parts';

/** Draws a backdrop of a published card and proves it, away from who else is waiting. Errors: STORE_UNAVAILABLE, TOO_BUSY, TOO_LABORIOUS. */
export async function drawnBackdrop(row: HandOutRow, served: PublishedCard, form: 'png' | 'smaller') {
  const backdrop = row.backdrop ?? FIRST_BACKDROP;
  const { drawing } = await plainCodeOf(row);
  const { photo, logo, logoOnBand, ground } = await piecePictures(served, 'backdrop');
  const own = backdrop.picture && (await files().get(backdrop.picture.hash));
  const { composition, organisationId } = served;
  return compute(
    'backdrop',
    {
      ...{ composition, language: composition.language ?? 'en', code: drawing, link: textOf(row), form },
      // A photo that is gone leaves the look of the card.
      backdrop: own ? backdrop : { ...backdrop, picture: null },
      pictures: own ? { photo, logo, ground: own } : { photo, logo: logoOnBand ?? logo, ground },
      withheld: await withheldOf(served, 'backdrop'),
    },
    { of: organisationId },
  );
}

/** Everything that the screen of a backdrop shows, with the proof of its picture. Errors: NOT_ALLOWED, NOT_FOUND, CARD_NOT_PUBLISHED, those of {@link drawnBackdrop}. */
export async function openBackdrop(actor: Actor, id: string, clock: Clock): Promise<ShownBackdrop> {
  const wanted = { channel: 'backdrop', action: 'hand-out.read' } as const;
  const { row, served, unpublished, body } = await ownPublished(actor, id, wanted, clock);
  const { bytes, type, proof } = await drawnBackdrop(row, served, 'smaller');
  return {
    ...{ id, cardId: row.card_id, placement: row.placement, link: linkOf(row), unpublished, proof },
    backdrop: row.backdrop ?? FIRST_BACKDROP,
    leaving: leavingOf(served.composition, null, ['backdrop'], (detail) => privacyOf(detail, body)),
    picture: `data:${type};base64,${bytes.toString('base64')}`,
    bytes: bytes.length,
    type: type === 'image/png' ? 'PNG' : 'JPEG',
  };
}

/** Keeps how a backdrop is made up; its photo is one that the member may show. Errors: those of {@link openBackdrop}. */
export async function saveBackdrop(actor: Actor, id: string, backdrop: Backdrop, clock: Clock): Promise<ShownBackdrop> {
  authorise(actor, 'hand-out.make');
  await inTenant(actor, async (tx) => {
    const { row } = await ownOfChannel(tx, actor, id, { channel: 'backdrop', action: 'hand-out.make' });
    const { picture } = backdrop;
    const isNew = picture !== null && picture.hash !== row.backdrop?.picture?.hash;
    if (isNew && !(await mayShow(tx, actor, picture.hash))) throw new Refusal({ code: 'NOT_FOUND' });
    await setBackdrop(tx, id, backdrop);
    await recordAudit(tx, actor, 'hand-out.styled', { kind: 'hand-out', id }, clock);
  });
  return openBackdrop(actor, id, clock);
}

/** The file of a backdrop, if its proof passes. Errors: PROOF_FAILED and those of {@link openBackdrop}. */
export async function backdropFile(
  actor: Actor,
  id: string,
  form: 'png' | 'smaller',
  clock: Clock,
): Promise<{ bytes: Buffer; fileName: string; type: string }> {
  const wanted = { channel: 'backdrop', action: 'hand-out.read' } as const;
  const { row, served } = await ownPublished(actor, id, wanted, clock);
  const { bytes, type, proof } = await drawnBackdrop(row, served, form);
  const failing = proof.checks.find(({ passed }) => !passed);
  if (failing) throw new Refusal({ code: 'PROOF_FAILED', channel: 'backdrop', finding: failing.finding });
  await inTenant(actor, (tx) =>
    noteTaken(tx, takenOf(row, served, clock), 'backdrop', served.composition, actor.organisation.country),
  );
  const ending = type === 'image/png' ? 'png' : 'jpg';
  return { bytes, type, fileName: `${plainName(writtenName(served.composition.name)) || 'card'}-backdrop.${ending}` };
}
