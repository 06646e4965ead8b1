import type { Channel } from '@/core/card';
import type { Content } from '@/core/code';
import { Refusal } from '@/core/errors';
import { withoutBelow } from '@/core/house';
import type { HandOutChannel } from '@/core/shown';
import type { Clock } from '@/server/clock';
import { handOutsOfCard, signatureOfCard, type DrawnCode, type HandOutRow } from '@/server/db/hand-outs/hand-outs';
import { card } from '@/server/db/cards/cards';
import { inTenant, type Tx } from '@/server/db/pool';
import { recordAudit } from '@/server/services/accounts/audit';
import { houseOf } from '@/server/services/house/house-style';
import { loadPublished, type PublishedCard } from '@/server/services/publishing/load-published';
import { withheldOf } from '@/server/services/publishing/prove-card';
import { addHandOut } from '@/server/services/publishing/publish-card';
import { drawnOf, textOf } from './drawing';
import { linkOf } from './own';
import { seenBelow, stripOf, wordsBelow } from './signature-parts';

const PLACEMENTS: Record<HandOutChannel, string> = {
  code: 'Code',
  tag: 'Tag',
  signature: 'Mail signature',
  message: 'Message',
  share: 'Shared',
  profile: 'Profile page',
  print: 'Paper card',
  backdrop: 'Backdrop',
  pass: 'Pass',
};

/** What an export of a card writes its files from: the card as recipients have it, and a hand-out of it. */
export type ExportParts = {
  served: PublishedCard;
  /** What must stand in none of them. */
  withheld: string[];
  /** What the organisation has stand below a signature, in words. */
  below: string[];
  /** Where its page is served. */
  base: string;
  /** The code of the hand-out, and where it leads. */
  code: string;
  link: string;
  /** What a frozen one carries, and what a code or tag does; null of one that was made before that was asked. */
  frozen: Buffer | null;
  content: Content | null;
  /** Of a code what it holds and how it is drawn. */
  text: string;
  drawn: DrawnCode;
};

/**
 * A live hand-out of the card at an address, made where there is none, with what its outputs are held against: for whoever runs Heathland, at the
 * command line. Errors: NOT_FOUND, CARD_NOT_PUBLISHED.
 */
export async function exportParts(
  address: string,
  channel: HandOutChannel,
  ticks: Channel,
  clock: Clock,
): Promise<ExportParts> {
  const served = await loadPublished({ address }, clock);
  if (!served) throw new Refusal({ code: 'NOT_FOUND' });
  if (served.state !== 'published') throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
  const row = await inTenant(served.organisationId, (tx) => liveHandOut(tx, served, channel, clock));
  return partsOf(served, row, ticks, `/c/${served.address}`, clock);
}

async function partsOf(
  served: PublishedCard,
  row: HandOutRow,
  ticks: Channel,
  base: string,
  clock: Clock,
): Promise<ExportParts> {
  const { organisationId, cardId } = served;
  const drawn = await inTenant(organisationId, async (tx) => {
    const owner = await card(tx, cardId);
    const house = owner ? ((await houseOf(tx, owner))?.style ?? null) : null;
    return drawnOf(tx, row, house);
  });
  const signature =
    row.channel === 'signature' ? ((await loadPublished({ code: row.code }, clock))?.signature ?? null) : null;
  const withheld = await withheldOf(served, ticks);
  return {
    ...{ served, base, drawn, code: row.code, link: linkOf(row), text: textOf(row) },
    frozen: row.frozen === null ? null : Buffer.from(row.frozen, 'base64'),
    content: row.content,
    withheld: signature ? withoutBelow(withheld, wordsBelow(signature)) : withheld,
    below: signature ? seenBelow(signature, stripOf(signature, 'message', clock.now())) : [],
  };
}

/** What a hand-out gives out, by the ticks that it goes by; its page and contact file besides, where it has them. */
const GIVES: Record<HandOutChannel, Channel[]> = {
  code: ['page', 'file'],
  tag: ['page', 'file'],
  signature: ['signature', 'page'],
  message: ['file', 'page'],
  share: ['file', 'page'],
  profile: ['page', 'file'],
  print: ['page', 'file'],
  backdrop: ['page', 'file'],
  pass: ['page', 'file'],
};

export type GivenOut = { channel: HandOutChannel; placement: string; parts: Partial<Record<Channel, ExportParts>> };

/** Every hand-out of a card that is out, with what each output of it is held against. Errors: NOT_FOUND, CARD_NOT_PUBLISHED. */
export async function givenOut(address: string, clock: Clock): Promise<GivenOut[]> {
  const served = await loadPublished({ address }, clock);
  if (!served) throw new Refusal({ code: 'NOT_FOUND' });
  if (served.state !== 'published') throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
  const rows = await inTenant(served.organisationId, (tx) => handOutsOfCard(tx, served.cardId));
  return Promise.all(
    rows
      .filter(({ state }) => state === 'out')
      .map(async (row) => {
        // A frozen copy goes by the ticks of its own channel.
        const own: Channel[] =
          row.frozen !== null && (row.channel === 'code' || row.channel === 'tag') ? [row.channel] : [];
        const of = [...own, ...GIVES[row.channel]];
        const parts = await Promise.all(
          of.map(async (ticks) => [ticks, await partsOf(served, row, ticks, `/h/${row.code}`, clock)] as const),
        );
        return { channel: row.channel, placement: row.placement, parts: Object.fromEntries(parts) };
      }),
  );
}

/** A live hand-out of a card on a channel, made where there is none. Error: CARD_NOT_PUBLISHED of a signature that rests. */
export async function liveHandOut(
  tx: Tx,
  { organisationId, cardId }: Pick<PublishedCard, 'organisationId' | 'cardId'>,
  channel: HandOutChannel,
  clock: Clock,
) {
  const find = async () =>
    (await handOutsOfCard(tx, cardId)).find(
      (row) =>
        row.channel === channel &&
        row.frozen === null &&
        row.state === 'out' &&
        (row.content?.what ?? 'card') === 'card',
    );
  const known = await find();
  if (known) return known;
  // Of these a card has one, which may rest.
  if (channel === 'signature' && (await signatureOfCard(tx, cardId))) throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
  const at = new Date(clock.now());
  const content = channel === 'code' ? ({ what: 'card' } as const) : null;
  const { id } = await addHandOut(tx, organisationId, cardId, PLACEMENTS[channel], at, () => ({
    ...{ channel, frozen: null, revision: null, content, occasion_id: null },
  }));
  await recordAudit(tx, { organisationId, userId: null }, 'hand-out.made', { kind: 'hand-out', id }, clock);
  return (await find())!;
}
