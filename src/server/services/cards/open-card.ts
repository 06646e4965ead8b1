import type { CardNow, ShownHandOut, ShownPlan } from '@/core/shown';
import { draftOf, channelsOf, reconcile, type CardState, type Channel, type Composition } from '@/core/card';
import { mayReach, reachOf } from '@/core/access';
import { Refusal } from '@/core/errors';
import { ownedFor, type HouseStyle, type Owned } from '@/core/house';
import { writtenName, type PersonRecord } from '@/core/record';
import type { EmbeddedPicture } from '@/core/vcard';
import { card, versionsOf, type CardRow } from '@/server/db/cards/cards';
import { handOutsOfCard, movesTo, type HandOutRow } from '@/server/db/hand-outs/hand-outs';
import { latestRevision } from '@/server/db/cards/revisions';
import { currentAddress } from '@/server/db/cards/directory';
import { planOf } from '@/server/db/cards/plans';
import { countWild } from '@/server/db/wild/wild';
import { inTenant, type Tx } from '@/server/db/pool';
import { record } from '@/server/db/cards/records';
import { picturesBy } from '@/server/db/media/pictures';
import { publicUrlOf } from '@/server/env';
import { files } from '@/server/files';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { houseOf } from '@/server/services/house/house-style';
import { filePicture } from '@/server/services/publishing/contact-context';
import { unlessUnavailable, type Later } from '@/server/services/media/pictures';
import { freeAddress } from '@/server/services/publishing/free-address';
import { shownPlan } from '@/server/services/publishing/plans';

export type OpenedCard = CardNow & {
  id: string;
  isPrivate: boolean;
  start: string | null;
  notice: string;
  instead: string | null;
  recordId: string;
  person: string;
  address: string | null;
  publicUrl: string;
  /** An address that is free, for a card that has none yet. */
  suggested: string | null;
  revision: { number: number; publishedAt: string; composition: Composition } | null;
  plan: ShownPlan | null;
  handOuts: ShownHandOut[];
  /** Copies of it that are out of date and not dealt with. */
  wild: number;
  /** The columns of the ledger: page and contact file, and each channel that has a hand-out. */
  channels: Channel[];
  /** The photo, and each logo that it may be given, as the contact file carries them: so the specimen is the very file. Null while the file store is unavailable. */
  pictures: ({ hash: string } & EmbeddedPicture)[] | null;
  /** The house style that holds, with the lines of the person's office; null where there is neither. */
  house: HouseStyle | null;
  /** Whether there is a house style, and not an office's lines alone. */
  hasHouse: boolean;
  /** Whether this member may give the card something else than the house style says. */
  mayOverride: boolean;
  /** What of it belongs to the organisation and is not this member's to change. */
  owned: Owned;
};

async function loaded(tx: Tx, actor: Actor, id: string): Promise<{ row: CardRow; now: CardNow }> {
  const row = await card(tx, id);
  const person = row && (await record(tx, row.record_id));
  if (!row || !person) throw new Refusal({ code: 'NOT_FOUND' });
  authoriseFor(actor, 'card.read', row.record_id);
  const body = person.body;
  return {
    row,
    now: {
      version: row.version,
      recordVersion: person.version,
      state: row.state,
      ...draftOf(row),
      lines: reconcile(row.lines, body),
      record: body,
    },
  };
}

/** A card with all that its table shows. Lines are held against today's record. Error: NOT_FOUND. */
export async function openCard(actor: Actor, id: string): Promise<OpenedCard> {
  authorise(actor, 'card.read');
  const { pictures, ...opened } = await inTenant(actor, async (tx) => {
    const { row, now } = await loaded(tx, actor, id);
    const revision = await latestRevision(tx, id);
    const handOuts = await handOutsOfCard(tx, id);
    const earlier = await earlierCards(tx, actor, id);
    const house = await houseOf(tx, row);
    const address = (await currentAddress(tx, id)) ?? null;
    const person = writtenName(now.record.name);
    return {
      id,
      ...now,
      isPrivate: row.is_private,
      start: row.start,
      notice: row.notice,
      instead: row.instead,
      recordId: row.record_id,
      person,
      address,
      publicUrl: publicUrlOf(actor.organisationId),
      suggested: address ? null : await freeAddress(tx, actor.organisationId, person),
      revision: revision
        ? {
            number: revision.number,
            publishedAt: revision.published_at.toISOString(),
            composition: revision.composition,
          }
        : null,
      plan: shownPlan(await planOf(tx, id)),
      handOuts: handOuts.map((row) => shownHandOut(row, earlier.get(row.id) ?? [])),
      wild: (await countWild(tx, { cards: [id] })).get(id) ?? 0,
      channels: channelsOf(
        row.lines,
        handOuts.map(({ channel, frozen }) => ({ channel, frozen: frozen !== null })),
      ),
      pictures: await picturesOn(tx, now.record, house?.style ?? null),
      house: house?.style ?? null,
      hasHouse: (house?.mark.house ?? 0) > 0,
      owned: ownedFor(actor.role, house?.style ?? null),
      mayOverride: reachOf(actor.role, 'look.override') === 'all',
    };
  });
  return { ...opened, pictures: await unlessUnavailable(pictures) };
}

/** What hand-outs opened before they opened this card, by their id; a colleague's card is not named to whom it is not shown. */
async function earlierCards(tx: Tx, actor: Actor, cardId: string): Promise<Map<string, ShownHandOut['earlier']>> {
  const earlier = new Map<string, ShownHandOut['earlier']>();
  for (const { hand_out_id: id, record_id: recordId, name, audience, at } of await movesTo(tx, cardId)) {
    const named = recordId !== null && name !== null && mayReach(actor, 'card.read', recordId);
    const card = named ? { name, audience: audience ?? '' } : null;
    earlier.set(id, [...(earlier.get(id) ?? []), { card, until: at.toISOString() }]);
  }
  return earlier;
}

const shownHandOut = (
  row: HandOutRow & { occasion: string | null },
  earlier: ShownHandOut['earlier'],
): ShownHandOut => ({
  ...{ id: row.id, code: row.code, placement: row.placement, channel: row.channel, revision: row.revision },
  ...{ frozen: row.frozen !== null, state: row.state, notice: row.notice, made: row.created_at.toISOString() },
  occasion: row.occasion_id && row.occasion ? { id: row.occasion_id, name: row.occasion } : null,
  ...{ what: row.content?.what ?? null, earlier },
  proof: row.proof && { read: row.proof.read, of: row.proof.of, passed: row.proof.faults.length === 0 },
});

/** The record's own pictures and the logos of the house style. */
async function picturesOn(
  tx: Tx,
  { details }: PersonRecord,
  house: HouseStyle | null,
): Promise<Later<OpenedCard['pictures']>> {
  const own = details.flatMap((detail) => ('picture' in detail ? [detail.picture] : []));
  const hashes = [...own, house?.logos.onLight?.hash, house?.logos.onDark?.hash].filter((hash) => hash !== undefined);
  const rows = await picturesBy(tx, [...new Set(hashes)]);
  return async () => {
    const found = await Promise.all(
      rows.map(async ({ hash, file_hash }) => ({ hash, bytes: await files().get(file_hash) })),
    );
    return found.flatMap(({ hash, bytes }) => (bytes ? [{ hash, ...filePicture(bytes) }] : []));
  };
}

/** What a table that is open needs when somebody else has saved. Error: NOT_FOUND. */
export async function cardNow(actor: Actor, id: string): Promise<CardNow> {
  authorise(actor, 'card.read');
  return inTenant(actor, async (tx) => (await loaded(tx, actor, id)).now);
}

/** The versions by which an open table sees that somebody else has saved. Error: NOT_FOUND. */
export async function cardVersions(
  actor: Actor,
  id: string,
): Promise<{ version: number; recordId: string; recordVersion: number; state: CardState }> {
  authorise(actor, 'card.read');
  return inTenant(actor, async (tx) => {
    const row = await versionsOf(tx, id);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'card.read', row.record_id);
    return { version: row.card, recordId: row.record_id, recordVersion: row.record, state: row.state };
  });
}
