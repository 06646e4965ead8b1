import { goesOut, type CardState } from '@/core/card';
import { Refusal } from '@/core/errors';
import type { Owned } from '@/core/house';
import { LAYOUT_NAMES, type LayoutName } from '@/core/look';
import { writtenName, type Detail, type PersonRecord } from '@/core/record';
import { cardsOfRecord } from '@/server/db/cards/cards';
import { inTenant } from '@/server/db/pool';
import { record } from '@/server/db/cards/records';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { houseOf } from '@/server/services/house/house-style';
import { ownedOf, refuseOwned } from '@/server/services/house/owners';
import { showOnDrafts } from './show-added';
import { writeRecord } from './write-record';
import { mayShow } from '@/server/services/media/pictures';

export type OpenedRecord = {
  id: string;
  version: number;
  body: PersonRecord;
  /** The cards of this record and the details that each shows somewhere. */
  cards: { id: string; audience: string; state: CardState; isPrivate: boolean; shows: string[] }[];
  /** The layouts that a further card may have: those that the house style allows. */
  layouts: readonly LayoutName[];
  /** What of it belongs to the organisation and is not this member's to change. */
  owned: Owned;
};

/** A record with the cards made from it. Error: NOT_FOUND. */
export async function openRecord(actor: Actor, id: string): Promise<OpenedRecord> {
  authorise(actor, 'record.read');
  return inTenant(actor, async (tx) => {
    const row = await record(tx, id);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'record.read', id);
    const cards = await cardsOfRecord(tx, id);
    return {
      id,
      version: row.version,
      body: row.body,
      cards: cards.map((card) => ({
        id: card.id,
        audience: card.audience,
        state: card.state,
        isPrivate: card.is_private,
        shows: card.lines.filter(goesOut).map((line) => line.detail),
      })),
      owned: await ownedOf(tx, actor, { record_id: id }),
      layouts: (await houseOf(tx, { record_id: id }))?.style.layouts ?? LAYOUT_NAMES,
    };
  });
}

/**
 * Saves a whole record over the version that the editor saw. What was published stays as it is until it is published again; drafts
 * show what came, as far as it is not private.
 * Errors: NAME_MISSING, NOT_FOUND, RECORD_CHANGED with today's version.
 */
export async function saveRecord(
  actor: Actor,
  id: string,
  baseVersion: number,
  body: PersonRecord,
  clock: Clock,
): Promise<{ version: number }> {
  authorise(actor, 'record.write');
  if (!writtenName(body.name)) throw new Refusal({ code: 'NAME_MISSING' });
  return inTenant(actor, async (tx) => {
    const row = await record(tx, id);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'record.write', id);
    for (const detail of body.details) {
      // A picture is named by its hash: only one that this organisation gave may be shown.
      const named =
        'picture' in detail ? [detail.picture, ...('crop' in detail && detail.crop ? [detail.crop.from] : [])] : [];
      for (const hash of named) if (!(await mayShow(tx, actor, hash))) throw new Refusal({ code: 'NOT_FOUND' });
    }
    await refuseOwned(tx, actor, { record_id: id }, { record: row.body }, { record: body });
    await showOnDrafts(tx, id, row.body, body, clock);
    if (!(await writeRecord(tx, id, baseVersion, body, clock)))
      throw new Refusal({ code: 'RECORD_CHANGED', version: row.version });
    const version = baseVersion + 1;
    await recordAudit(tx, actor, 'record.changed', { kind: 'record', id }, clock, { version });
    return { version };
  });
}

/** Marks a phone, mail, link or address of a record as for work; drafts show it then. Errors: NOT_FOUND, RECORD_CHANGED. */
export async function markForWork(
  actor: Actor,
  id: string,
  detail: string,
  clock: Clock,
): Promise<{ version: number }> {
  authorise(actor, 'record.write');
  const { body, version } = await openRecord(actor, id);
  const found = body.details.find((each) => each.id === detail);
  if (!found || !('uses' in found)) throw new Refusal({ code: 'NOT_FOUND' });
  const uses = [...new Set([...found.uses, 'work' as const])];
  const details = body.details.map((each) => (each === found ? ({ ...found, uses } as Detail) : each));
  return saveRecord(actor, id, version, { ...body, details }, clock);
}
