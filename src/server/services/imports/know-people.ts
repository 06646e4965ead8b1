import { knownAs, ownUid, type PersonRecord } from '@/core/record';
import { cardOwners } from '@/server/db/cards/cards';
import type { Tx } from '@/server/db/pool';
import {
  hashedMark,
  hashedMarks,
  recordNames,
  recordsMarked,
  recordsWithoutMarks,
  writeMarks,
} from '@/server/db/cards/records';

/** So many records of before marks were written down are brought up to date at a time. */
const AT_ONCE = 50;

async function markOlder(tx: Tx): Promise<void> {
  for (;;) {
    const rows = await recordsWithoutMarks(tx, AT_ONCE);
    if (rows.length > 0)
      await writeMarks(
        tx,
        rows.map(({ id, body }) => ({ id, marks: hashedMarks(body) })),
      );
    if (rows.length < AT_ONCE) return;
  }
}

/** For each of these people the id of their record in the organisation, or null; UIDs of its cards, which recipients saved, are theirs. */
export async function knowPeople(tx: Tx, people: PersonRecord[]): Promise<(string | null)[]> {
  await markOlder(tx);
  const marks = new Map<string, Set<string>>();
  for (const { id, mark } of await recordsMarked(tx, [...new Set(people.flatMap(hashedMarks))]))
    marks.set(mark, (marks.get(mark) ?? new Set()).add(id));
  const uids = people.flatMap((person) => ownUid(person) ?? []);
  const own = new Map([
    ...(await recordNames(tx, uids)).map(({ id }) => [id, id] as const),
    ...(await cardOwners(tx, uids)).map((row) => [row.id, row.record_id] as const),
  ]);
  const none = new Set<string>();
  return people.map((person) =>
    knownAs(person, {
      byMark: (mark) => marks.get(hashedMark(mark)) ?? none,
      byOwnUid: (uid) => own.get(uid) ?? null,
    }),
  );
}
