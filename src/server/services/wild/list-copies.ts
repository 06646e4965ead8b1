import { z } from 'zod';
import { mayReach, recordsWithin } from '@/core/access';
import { NAME_LINE } from '@/core/card';
import { Refusal } from '@/core/errors';
import { defaultLabel, writtenName } from '@/core/record';
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
  type Page,
} from '@/server/db/wild/wild';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { ownHandOut } from '@/server/services/hand-outs/own';

const PAGE = 60;
/** So many revisions' contacts are looked at. */
const MOST_GONE = 200;

/** What is asked for: copies of one card, of one hand-out, or of all that the member reaches; those out of date, all, or those that carry a value, as it is typed. */
export type CopiesAsked = {
  cardId?: string | null;
  handOutId?: string | null;
  which: 'wild' | 'all';
  value?: string;
  after?: string | null;
};

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

/** What a member reaches, narrowed to one card or hand-out where one is named, and that one's name. Error: NOT_FOUND. */
async function scopeOf(
  tx: Tx,
  actor: Actor,
  { cardId, handOutId }: CopiesAsked,
): Promise<{ scope: CopiesOf; of: string | null }> {
  if (handOutId) {
    const { row } = await ownHandOut(tx, actor, handOutId, 'hand-out.read');
    return { scope: { handOut: handOutId }, of: row.placement };
  }
  if (cardId) {
    const row = await card(tx, cardId);
    const person = row && mayReach(actor, 'hand-out.read', row.record_id) && (await record(tx, row.record_id));
    if (!person) throw new Refusal({ code: 'NOT_FOUND' });
    return { scope: { cards: [cardId] }, of: `${writtenName(person.body.name)}, ${row.audience}` };
  }
  const records = recordsWithin(actor, 'hand-out.read');
  return { scope: records === 'all' ? 'all' : { records }, of: null };
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

/** What copies carry, by copy; what was sought comes first, and a number within other words only then. */
async function valuesOf(
  tx: Tx,
  copies: { id: string; card_id: string }[],
  wanted: ReadonlySet<string> = new Set(),
): Promise<Map<string, CopyValue[]>> {
  const cardOf = new Map(copies.map(({ id, card_id }) => [id, card_id]));
  const now = await nowOf(tx, [...new Set(cardOf.values())]);
  const values = new Map<string, CopyValue[]>();
  for (const row of await carriedBy(tx, [...cardOf.keys()])) {
    const sought = wanted.has(row.value);
    if (row.source === 'inside' && !sought) continue;
    const told = { label: labelOf(row), was: valueShown(row.detail), old: row.old, sought };
    const value = { ...told, now: row.old ? now(cardOf.get(row.copy_id)!, row.line) : told.was };
    const known = values.get(row.copy_id) ?? [];
    values.set(row.copy_id, sought ? [value, ...known] : [...known, value]);
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

type Which = Parameters<typeof copiesOf>[2];

async function pageOf(
  tx: Tx,
  of: CopiesOf,
  which: Which,
  after: Page['after'],
): Promise<Pick<CopiesPage, 'copies' | 'next'>> {
  const found = await copiesOf(tx, of, which, { after, most: PAGE + 1 });
  const rows = found.slice(0, PAGE);
  const values = await valuesOf(tx, rows, new Set(typeof which === 'object' ? which.values : []));
  const counted = await savesOf(
    tx,
    rows.flatMap((row) => (row.channel === 'file' ? row.card_id : [])),
  );
  const copies = rows.flatMap((row) => {
    if (row.channel !== 'file') return shownCopy(row, values.get(row.id) ?? []);
    // A revision whose contact nobody saved is out nowhere.
    const saved = counted.get(`${row.card_id} ${row.revision}`);
    return saved ? shownCopy({ ...row, copies: saved }, values.get(row.id) ?? []) : [];
  });
  return { copies, next: found.length > PAGE ? placeOf(rows.at(-1)!) : null };
}

/** How many saved a contact of these cards, by card and revision. */
const savesOf = async (tx: Tx, cards: string[]): Promise<Map<string, number>> =>
  new Map(
    (await savedContacts(tx, [...new Set(cards)])).map(({ card_id, revision, count }) => [
      `${card_id} ${revision}`,
      count,
    ]),
  );

/** Copies that are out, and contacts that cannot be called back. Errors: NOT_ALLOWED, NOT_FOUND, INPUT. */
export async function listCopies(actor: Actor, asked: CopiesAsked): Promise<CopiesPage> {
  authorise(actor, 'hand-out.read');
  const after = asked.after ? readPlace(asked.after) : null;
  const typed = (asked.value ?? '').trim();
  await outsideTenants(sortInbox);
  return inTenant(actor, async (tx) => {
    const { scope, of } = await scopeOf(tx, actor, asked);
    const values = typed ? sought(typed, actor.organisation.country) : null;
    const { copies, next } = await pageOf(tx, scope, values ? { values } : asked.which, after);
    const unsettled = [...(await countWild(tx, scope)).values()].reduce((sum, each) => sum + each, 0);
    const gone = after || typed ? [] : await goneOf(tx, scope);
    return { copies, next, of, unsettled, gone };
  });
}

/** Contacts that say something old, by card. */
async function goneOf(tx: Tx, of: CopiesOf): Promise<GoneContacts[]> {
  const rows = await goneContacts(tx, of, MOST_GONE);
  const cards = [...new Set(rows.map(({ card_id }) => card_id))];
  const saves = await savesOf(tx, cards);
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
  const rows = await inTenant(actor, async (tx) => {
    if (!(await record(tx, recordId))) throw new Refusal({ code: 'NOT_FOUND' });
    return outOfRecord(tx, recordId);
  });
  return rows.map((row) => ({ ...row, placements: row.placements ?? [] }));
}

/** A copy that carries a value, for whoever runs Heathland at the command line. */
export type Carrying = {
  code: string | null;
  placement: string | null;
  channel: string;
  carried: string;
  now: string | null;
  copies: number | null;
};

/** Every copy of an organisation that carries a value, as it is typed, out of date or not. */
export async function* copiesCarrying(
  { id, country }: { id: string; country: string },
  typed: string,
): AsyncGenerator<Carrying> {
  await outsideTenants(sortInbox);
  const values = sought(typed, country);
  for (let after: Page['after'] = null; ;) {
    const from = after;
    const { copies, next } = await inTenant(id, (tx) => pageOf(tx, 'all', { values }, from));
    for (const {
      code,
      placement,
      channel,
      values: [first],
      copies: count,
    } of copies)
      yield { code, placement, channel, carried: first?.was ?? '', now: first?.now ?? null, copies: count };
    if (next === null) return;
    after = readPlace(next);
  }
}

/** How many copies of all that the member reaches are out of date and not dealt with. Error: NOT_ALLOWED. */
export async function countAllOutOfDate(actor: Actor): Promise<number> {
  authorise(actor, 'hand-out.read');
  const records = recordsWithin(actor, 'hand-out.read');
  const counts = await inTenant(actor, (tx) => countWild(tx, records === 'all' ? 'all' : { records }));
  return [...counts.values()].reduce((sum, each) => sum + each, 0);
}
