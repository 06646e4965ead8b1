import { Refusal } from '@/core/errors';
import { withoutBelow } from '@/core/house';
import type { HandOutChannel } from '@/core/shown';
import type { Clock } from '@/server/clock';
import { handOutsOfCard, signatureOfCard, type DrawnCode } from '@/server/db/hand-outs/hand-outs';
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
};

/** What an export of a card writes its files from: the card as recipients have it, and a hand-out of it. */
export type ExportParts = {
  served: PublishedCard;
  /** What must stand in none of them. */
  withheld: string[];
  /** What the organisation has stand below a signature, in words. */
  below: string[];
  /** The code of the hand-out, and where it leads. */
  code: string;
  link: string;
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
  ticks: 'page' | 'file' | 'signature',
  clock: Clock,
): Promise<ExportParts> {
  const served = await loadPublished({ address }, clock);
  if (!served) throw new Refusal({ code: 'NOT_FOUND' });
  if (served.state !== 'published') throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
  const { organisationId, cardId } = served;
  const given = await inTenant(organisationId, async (tx) => {
    const row = await liveHandOut(tx, { organisationId, cardId }, channel, clock);
    const owner = await card(tx, cardId);
    const house = owner ? ((await houseOf(tx, owner))?.style ?? null) : null;
    return { code: row.code, link: linkOf(row), text: textOf(row), drawn: await drawnOf(tx, row, house) };
  });
  const signature =
    channel === 'signature' ? ((await loadPublished({ code: given.code }, clock))?.signature ?? null) : null;
  const withheld = await withheldOf(served, ticks);
  return {
    ...{ served, ...given },
    withheld: signature ? withoutBelow(withheld, wordsBelow(signature)) : withheld,
    below: signature ? seenBelow(signature, stripOf(signature, 'message', clock.now())) : [],
  };
}

async function liveHandOut(
  tx: Tx,
  { organisationId, cardId }: { organisationId: string; cardId: string },
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
