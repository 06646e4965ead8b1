import { z } from 'zod';
import { mayReach, recordsWithin } from '@/core/access';
import { NAME_LINE } from '@/core/card';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { defaultLabel } from '@/core/record';
import type { CopiesPage, CopyValue, GoneContacts, OutThere, ShownCopy } from '@/core/shown';
import { sought, valueShown } from '@/core/wild';
import { card } from '@/server/db/cards/cards';
import { sortInbox } from '@/server/db/response/events';
import { inTenant, outsideTenants, type Tx } from '@/server/db/pool';
import { record } from '@/server/db/cards/records';
import {
  carriedBy,
  copiesOf,
  countWild,
  goneContacts,
  outOfRecord,
  publishedNow,
  savedContacts,
  type CarriedRow,
  type CopiesOf,
  type CopyRow,
} from '@/server/db/wild/wild';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';

const PAGE = 60;
/** So many revisions' contacts are looked at. */
const MOST_GONE = 200;

/** What is asked for: copies of one card or of all that the member reaches; those out of date, all, or those that carry a value, as it is typed. */
export type CopiesAsked = { cardId?: string | null; which: 'wild' | 'all'; value?: string; after?: string | null };

const Place = z.tuple([z.iso.datetime(), z.uuid()]);
const placeOf = ({ made_at, id }: CopyRow): string =>
  Buffer.from(JSON.stringify([made_at.toISOString(), id])).toString('base64url');
function readPlace(text: string): { at: Date; id: string } {
  try {
    const [at, id] = Place.parse(JSON.parse(Buffer.from(text, 'base64url').toString()));
    return { at: new Date(at), id };
  } catch {
    throw new Refusal({ code: 'INPUT', field: 'after' });
  }
}

/** What a member reaches, narrowed to one card where one is named. Error: NOT_FOUND. */
async function scopeOf(tx: Tx, actor: Actor, cardId: string | null | undefined): Promise<CopiesOf> {
  if (cardId) {
    const row = await card(tx, cardId);
    if (!row || !mayReach(actor, 'hand-out.read', row.record_id)) throw new Refusal({ code: 'NOT_FOUND' });
    return { cards: [cardId] };
  }
  const records = recordsWithin(actor, 'hand-out.read');
  return records === 'all' ? 'all' : { records };
}

/** What cards say now, by card and line, the house style's under its own lines. */
async function nowOf(tx: Tx, cards: string[]): Promise<(cardId: string, line: string) => string | null> {
  const rows = await publishedNow(tx, cards);
  const said = new Map<string, string>();
  for (const { card_id, line, detail } of rows) {
    const key = `${card_id ?? ''} ${line}`;
    if (!said.has(key)) said.set(key, valueShown(detail));
  }
  return (cardId, line) => said.get(`${cardId} ${line}`) ?? said.get(` ${line}`) ?? null;
}

const labelOf = ({ line, label, detail }: CarriedRow): string =>
  label || (line === NAME_LINE || detail.kind === 'name' ? '' : defaultLabel(detail));

/** What copies carry, by copy. */
async function valuesOf(tx: Tx, copies: { id: string; card_id: string }[]): Promise<Map<string, CopyValue[]>> {
  const cardOf = new Map(copies.map(({ id, card_id }) => [id, card_id]));
  const now = await nowOf(tx, [...new Set(cardOf.values())]);
  const values = new Map<string, CopyValue[]>();
  for (const row of await carriedBy(tx, [...cardOf.keys()])) {
    const told = { label: labelOf(row), was: valueShown(row.detail), old: row.old };
    const value = { ...told, now: row.old ? now(cardOf.get(row.copy_id)!, row.line) : told.was };
    values.set(row.copy_id, [...(values.get(row.copy_id) ?? []), value]);
  }
  return values;
}

const shownCopy = (row: CopyRow, values: CopyValue[]): ShownCopy => ({
  ...{ id: row.id, cardId: row.card_id, recordId: row.record_id, person: row.person, audience: row.audience },
  ...{ handOutId: row.hand_out_id, placement: row.placement, code: row.code, live: row.live && row.code !== null },
  ...{ channel: row.channel, revision: row.revision, copies: row.copies, place: row.place || null, values },
  ...{
    retired: row.state === 'retired',
    since: row.printed_on ?? row.made_at.toISOString(),
    done: row.done_at?.toISOString() ?? null,
  },
});

/** Copies that are out, and contacts that cannot be called back. Errors: NOT_ALLOWED, NOT_FOUND, INPUT. */
export async function listCopies(actor: Actor, asked: CopiesAsked): Promise<CopiesPage> {
  authorise(actor, 'hand-out.read');
  const after = asked.after ? readPlace(asked.after) : null;
  const typed = (asked.value ?? '').trim();
  await outsideTenants(sortInbox);
  return inTenant(actor.organisationId, async (tx) => {
    const of = await scopeOf(tx, actor, asked.cardId);
    const which = typed ? { values: sought(typed.slice(0, LIMITS.text), actor.organisation.country) } : asked.which;
    const found = await copiesOf(tx, of, which, { after, most: PAGE + 1 });
    const rows = found.slice(0, PAGE);
    const values = await valuesOf(tx, rows);
    const counted = new Map(
      (await savedContacts(tx, [...new Set(rows.flatMap((row) => (row.channel === 'file' ? row.card_id : [])))])).map(
        (each) => [`${each.card_id} ${each.revision}`, each.count],
      ),
    );
    const copies = rows.flatMap((row) => {
      const saved = counted.get(`${row.card_id} ${row.revision}`) ?? 0;
      // A revision whose contact nobody saved is out nowhere.
      if (row.channel === 'file' && saved === 0) return [];
      return shownCopy(row.channel === 'file' ? { ...row, copies: saved } : row, values.get(row.id) ?? []);
    });
    const toDo = [...(await countWild(tx, of)).values()].reduce((sum, each) => sum + each, 0);
    const gone = after || typed ? [] : await goneOf(tx, of);
    return { copies, next: found.length > PAGE ? placeOf(rows.at(-1)!) : null, toDo, gone };
  });
}

/** Contacts that say something old, by card. */
async function goneOf(tx: Tx, of: CopiesOf): Promise<GoneContacts[]> {
  const rows = await goneContacts(tx, of, MOST_GONE);
  const cards = [...new Set(rows.map(({ card_id }) => card_id))];
  const saves = new Map(
    (await savedContacts(tx, cards)).map(({ card_id, revision, count }) => [`${card_id} ${revision}`, count]),
  );
  const values = await valuesOf(tx, rows);
  const gone: GoneContacts[] = [];
  for (const id of cards) {
    const own = rows
      .filter(({ card_id }) => card_id === id)
      .map((row) => ({
        ...row,
        count: row.channel === 'file' ? (saves.get(`${id} ${row.revision}`) ?? 0) : (row.copies ?? 0),
      }))
      .filter(({ count }) => count > 0);
    if (own.length === 0) continue;
    const { person, audience } = own[0]!;
    const old = own.flatMap((row) => (values.get(row.id) ?? []).filter((value) => value.old));
    const sum = (channel: 'file' | 'mail') =>
      own.reduce((total, row) => total + (row.channel === channel ? row.count : 0), 0);
    gone.push({
      ...{ cardId: id, person, audience, saved: sum('file'), sent: sum('mail') },
      values: [...new Map(old.map((value) => [`${value.label} ${value.was}`, value])).values()],
    });
  }
  return gone;
}

/** What is out of the values of a record, for who changes one. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function outThere(actor: Actor, recordId: string): Promise<OutThere[]> {
  authorise(actor, 'record.read');
  authoriseFor(actor, 'record.read', recordId);
  await outsideTenants(sortInbox);
  const rows = await inTenant(actor.organisationId, async (tx) => {
    if (!(await record(tx, recordId))) throw new Refusal({ code: 'NOT_FOUND' });
    return outOfRecord(tx, recordId);
  });
  return rows.map((row) => ({ ...row, placements: row.placements ?? [] }));
}
