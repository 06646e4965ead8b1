import { exposureOf, publishedBy } from '@/core/wild';
import { lineTypeOf } from '@/core/record/line-type';
import { cardIdsOf, cardOwners, holdCards } from '@/server/db/cards/cards';
import { recordsBy } from '@/server/db/cards/records';
import { latestRevisions } from '@/server/db/cards/revisions';
import { writePublished } from '@/server/db/wild/copies';
import { recountExposed } from '@/server/db/wild/count';
import { givenOut, setJudged, unjudged, writePrivacy } from '@/server/db/wild/exposed';
import type { Tx } from '@/server/db/pool';

/**
 * Writes down which of what these people's cards give out, and of what copies of them carry, is private: after every act that gives something out or
 * says something else of it.
 */
export async function judgeExposed(tx: Tx, records: string[]): Promise<void> {
  const given = await givenOut(tx, records);
  if (given.length === 0) return;
  const people = await recordsBy(tx, [...new Set(given.map(({ record_id }) => record_id))]);
  const keyOf = ({ record_id, line, kind, value, source }: (typeof given)[number]) =>
    JSON.stringify([record_id, line, kind, value, source]);
  const judged = new Map<string, { row: (typeof given)[number]; differs: boolean }>();
  for (const row of given) {
    const person = people.get(row.record_id);
    if (!person) continue;
    const known = judged.get(keyOf(row));
    // Of one value that was given out in several ways what is private anywhere is private.
    const privacy = known?.row.privacy ?? exposureOf(row, person.body, lineTypeOf);
    const differs = (known?.differs ?? false) || row.privacy !== privacy;
    judged.set(keyOf(row), { row: { ...row, privacy }, differs });
  }
  const changed = [...judged.values()].filter(({ differs }) => differs).map(({ row }) => row);
  if (changed.length === 0) return;
  await writePrivacy(tx, changed);
  await recountExposed(tx, { cards: await cardIdsOf(tx, records) });
}

/** The same of the person whose card it is. */
export const judgeCard = (tx: Tx, cardId: string): Promise<void> => judgeCards(tx, [cardId]);

export async function judgeCards(tx: Tx, cardIds: string[]): Promise<void> {
  const owners = await cardOwners(tx, cardIds);
  await judgeExposed(tx, [...new Set(owners.map(({ record_id }) => record_id))]);
}

/** So many people of before are looked at while somebody waits. */
const AT_ONCE = 50;

/**
 * Looks at some of the people of before it was written down what of them is private, and at numbers within words of their cards; they are few after a while,
 * and then none.
 */
export async function judgeOlder(
  tx: Tx,
  { organisationId, country }: { organisationId: string; country: string },
): Promise<void> {
  const ids = await unjudged(tx, AT_ONCE);
  if (ids.length === 0) return;
  const cards = await cardIdsOf(tx, ids);
  // Nobody publishes them meanwhile, and of two who look at once one waits.
  await holdCards(tx, cards);
  const published = [...(await latestRevisions(tx, cards)).values()].map(({ card_id, composition }) => ({
    ...{ cardId: card_id, hides: composition.look.hides, values: publishedBy(composition, country) },
  }));
  if (published.length > 0) await writePublished(tx, organisationId, published);
  await judgeExposed(tx, ids);
  await setJudged(tx, ids);
}
