import {
  addedTicks,
  draftOf,
  goesOut,
  PAGE_AND_FILE,
  privacyOf,
  NOWHERE,
  reconcile,
  type Line,
  type Ticks,
} from '@/core/card';
import { Refusal } from '@/core/errors';
import { shownValue, type Detail, type PersonRecord } from '@/core/record';
import { lineTypeOf } from '@/core/record/line-type';
import { cardForUpdate, cardsOfRecord, updateCard, type CardRow } from '@/server/db/cards/cards';
import { inTenant, type Tx } from '@/server/db/pool';
import { record } from '@/server/db/cards/records';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';

/** Ticks lines of a locked card by their details, null where a line stays as it is. Answers whether any changed. */
async function tickLines(
  tx: Tx,
  row: CardRow,
  body: PersonRecord,
  ticksOf: (detail: Detail, line: Line) => Ticks | null,
  clock: Clock,
): Promise<boolean> {
  const byId = new Map(body.details.map((detail) => [detail.id, detail]));
  let ticked = false;
  const lines = reconcile(row.lines, body).map((line) => {
    const detail = byId.get(line.detail);
    const ticks = detail && !line.own ? ticksOf(detail, line) : null;
    if (!ticks) return line;
    ticked = true;
    return { ...line, ticks };
  });
  if (ticked) await updateCard(tx, row.id, row.version, { ...draftOf(row), lines, updated_at: new Date(clock.now()) });
  return ticked;
}

/**
 * Drafts show what came to their record, or was marked as for work, with the safe first ticks; what was ticked while it was for work and
 * is private now is ticked nowhere on the drafts of a public audience: nobody ticked a private thing. What is published waits for somebody to
 * say so: {@link showOnCards}. `before` is the record as it was. Called before the record is written: cards are
 * locked first, as everywhere, and in the order of their ids, so that two who do such things wait for each other.
 */
export async function showOnDrafts(
  tx: Tx,
  recordId: string,
  before: PersonRecord,
  now: PersonRecord,
  clock: Clock,
): Promise<void> {
  const was = new Map(before.details.map((detail) => [detail.id, detail]));
  const isOpen = (detail: Detail, person: PersonRecord) => privacyOf(detail, person, lineTypeOf) === null;
  const fresh = new Set(
    now.details.filter((detail) => {
      const old = was.get(detail.id);
      return !old || (!isOpen(old, before) && isOpen(detail, now));
    }),
  );
  const closed = new Set(
    now.details.filter((detail) => {
      const old = was.get(detail.id);
      // Marked otherwise: what is typed anew, there or elsewhere in the record, takes no tick away letter by letter.
      const isMarked = old && shownValue(old) === shownValue(detail) && JSON.stringify(old) !== JSON.stringify(detail);
      return isMarked && isOpen(old, before) && !isOpen(detail, now);
    }),
  );
  if (fresh.size === 0 && closed.size === 0) return;
  const drafts = (await cardsOfRecord(tx, recordId)).filter(({ state }) => state === 'draft').map(({ id }) => id);
  for (const id of drafts.sort()) {
    const row = await cardForUpdate(tx, id);
    if (row?.state !== 'draft') continue;
    const audience = { isPrivate: row.is_private };
    const ticksOf = (detail: Detail, line: Line) => {
      if (goesOut(line)) return closed.has(detail) && !audience.isPrivate ? NOWHERE : null;
      const ticks = fresh.has(detail) ? addedTicks(detail, now, audience, lineTypeOf) : null;
      return ticks && (ticks.page || ticks.file) ? ticks : null;
    };
    await tickLines(tx, row, now, ticksOf, clock);
  }
}

/**
 * Puts details of a record on the page and contact file of these cards, as somebody ticked them; what a recipient sees stays as
 * it is until the card is published again. Errors: NOT_ALLOWED, NOT_FOUND.
 */
export async function showOnCards(
  actor: Actor,
  recordId: string,
  chosen: { details: string[]; onCards: string[] },
  clock: Clock,
): Promise<{ cards: string[] }> {
  authorise(actor, 'card.write');
  authoriseFor(actor, 'card.write', recordId);
  const wanted = new Set(chosen.details);
  return inTenant(actor, async (tx) => {
    const person = await record(tx, recordId);
    if (!person) throw new Refusal({ code: 'NOT_FOUND' });
    const body = person.body;
    const changed: string[] = [];
    // Always in the same order, so that two who do the same wait for each other and do not lock up.
    for (const id of [...new Set(chosen.onCards)].sort()) {
      const row = await cardForUpdate(tx, id);
      if (row?.record_id !== recordId) throw new Refusal({ code: 'NOT_FOUND' });
      if (
        !(await tickLines(
          tx,
          row,
          body,
          ({ id: each }, line) => (wanted.has(each) && !goesOut(line) ? PAGE_AND_FILE : null),
          clock,
        ))
      )
        continue;
      await recordAudit(tx, actor, 'card.changed', { kind: 'card', id }, clock, { version: row.version + 1 });
      changed.push(id);
    }
    return { cards: changed };
  });
}
