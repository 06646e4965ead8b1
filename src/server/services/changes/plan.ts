import { setImmediate as nextTurn } from 'node:timers/promises';
import { mayReach } from '@/core/access';
import { composeToday, reconcile } from '@/core/card';
import { changedCard, changedDetails, readChange, withDetails, type Change, type Touched } from '@/core/change';
import { orRefuse, Refusal, wordingOf, type Problem } from '@/core/errors';
import { judgeLook, ownedFor, ownersRefuse, type HouseStyle, type Owned } from '@/core/house';
import { shownValue, type Detail, type PersonRecord } from '@/core/record';
import { changesSince } from '@/core/revisions';
import type { ChangePlan, LeftEntry } from '@/core/shown';
import { normalised } from '@/core/wild/value';
import { CHANGES } from '@/core/words';
import { cardIdsOf, cardsBy, type CardRow } from '@/server/db/cards/cards';
import { plannedCards } from '@/server/db/cards/plans';
import { recordsBy, type RecordRow } from '@/server/db/cards/records';
import { latestRevisions, type RevisionRow } from '@/server/db/cards/revisions';
import { countCarrying } from '@/server/db/wild/wild';
import { inTenant, type Tx } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';
import { housesOf } from '@/server/services/house/house-style';

/** People looked at in one breath, and how many of what is told. */
const AT_ONCE = 25;
const SAMPLE = 8;
const MOST_LEFT = 100;

/** A card as a change leaves it (null where it stays), and whether it is out and says nothing that is not published yet; or what keeps it. */
export type PlannedCard = { row: CardRow; next: Touched | null; publish: boolean; problem: Problem | null };
/** Somebody as a change leaves them. */
export type PlannedPerson = {
  person: RecordRow;
  details: { id: string; was: Detail | null; is: Detail }[];
  body: PersonRecord;
  cards: PlannedCard[];
  /** What keeps all of them as they are. */
  problem: Problem | null;
};

/** What stands against asking at all. Errors: NOT_ALLOWED, NOT_FOUND. */
export function refuseChange(actor: Actor, records: string[]): void {
  for (const action of ['record.write', 'card.publish', 'card.write'] as const) {
    authorise(actor, action);
    for (const id of records) if (!mayReach(actor, action, id)) throw new Refusal({ code: 'NOT_FOUND' });
  }
}

type Known = {
  latest: ReadonlyMap<string, RevisionRow>;
  plannedOut: ReadonlySet<string>;
  house: HouseStyle | null;
  /** What is the organisation's and not the actor's to change. */
  owned: Owned;
  country: string;
};

/** One person under a change; what is not published yet goes out with nothing else. */
export function planPerson(change: Change, person: RecordRow, rows: CardRow[], of: Known): PlannedPerson {
  const details = changedDetails(change, person.body);
  const body = withDetails(person.body, details);
  const locks = of.house?.locks ?? {};
  const closed = ownersRefuse({ record: person.body }, { record: body }, of.owned, locks);
  if (closed) return { person, details: [], body: person.body, cards: [], problem: closed };
  const added = details.flatMap(({ id, was }) => (was === null ? [id] : []));
  const cards = rows.map((row): PlannedCard => {
    const touched = changedCard(change, { lines: row.lines, look: row.look }, body, added);
    const isOut = row.state === 'published';
    const shows = details.some(({ id }) =>
      row.lines.some((line) => line.detail === id && Object.values(line.ticks).some(Boolean)),
    );
    if (!touched && !((isOut || of.plannedOut.has(row.id)) && shows) && change.of !== 'codes')
      return { row, next: null, publish: false, problem: null };
    const { refused } = touched ? judgeLook(row.look, touched.look, of.house, false) : { refused: [] };
    const [first] = refused;
    const notTheirs =
      touched &&
      ownersRefuse(
        { record: person.body, card: row },
        { record: body, card: { ...row, lines: touched.lines } },
        of.owned,
        locks,
      );
    if (notTheirs) return { row, next: null, publish: false, problem: notTheirs };
    if (first) {
      const problem: Problem =
        first.what === 'layout'
          ? { code: 'LAYOUT_NOT_ALLOWED' }
          : { code: 'LOCKED', part: first.part, reason: of.house?.locks[first.part] ?? '' };
      return { row, next: null, publish: false, problem };
    }
    // What is planned would go out later as it was, over the change.
    if (of.plannedOut.has(row.id) && change.of !== 'codes')
      return { row, next: null, publish: false, problem: { code: 'CARD_PLANNED' } };
    if (!isOut || change.of === 'codes') return { row, next: touched, publish: false, problem: null };
    const today = composeToday(person.body, row, of.country);
    const latest = of.latest.get(row.id);
    const same = latest !== undefined && today.ok && changesSince(latest.composition, today.value).length === 0;
    return same
      ? { row, next: touched, publish: true, problem: null }
      : { row, next: null, publish: false, problem: { code: 'CARD_UNPUBLISHED' } };
  });
  return { person, details, body, cards, problem: null };
}

/** People with their cards under a change. */
export async function planSome(tx: Tx, actor: Actor, change: Change, records: string[]): Promise<PlannedPerson[]> {
  const people = await recordsBy(tx, records);
  const rows = await cardsBy(tx, await cardIdsOf(tx, [...people.keys()]));
  const latest = await latestRevisions(
    tx,
    rows.filter(({ state }) => state === 'published').map(({ id }) => id),
  );
  const plannedOut = await plannedCards(
    tx,
    rows.map(({ id }) => id),
  );
  const houses = await housesOf(tx, [...people.keys()]);
  const planned: PlannedPerson[] = [];
  for (const person of people.values()) {
    const house = houses(person.id)?.style ?? null;
    const owned = ownedFor(actor.role, house);
    const own = rows.filter(({ record_id, state }) => record_id === person.id && state !== 'retired');
    planned.push(
      planPerson(change, person, own, { latest, plannedOut, house, owned, country: actor.organisation.country }),
    );
  }
  return planned;
}

const isChanged = ({ details, cards }: PlannedPerson): boolean =>
  details.length > 0 || cards.some(({ next }) => next !== null);

const leftOf = ({ person, cards, problem }: PlannedPerson): LeftEntry[] =>
  [{ card: null, problem }, ...cards.map(({ row, problem: own }) => ({ card: row, problem: own }))].flatMap((each) =>
    each.problem
      ? [
          {
            ...{ recordId: person.id, person: person.written_name },
            card: each.card && { id: each.card.id, audience: each.card.audience },
            finding: { code: 'WORDED' as const, sentence: wordingOf(each.problem) },
          },
        ]
      : [],
  );

/** Somebody before and after, in words. */
function sampleOf(change: Change, { person, details, cards, body }: PlannedPerson): ChangePlan['sample'][number] {
  const name = person.written_name;
  const said = details[0];
  if (said) return { person: name, audience: null, was: said.was ? shownValue(said.was) : '', is: shownValue(said.is) };
  const { row, next } = cards.find((each) => each.next !== null)!;
  if (change.of === 'layout')
    return { person: name, audience: row.audience, was: row.look.layout, is: next!.look.layout };
  const before = new Map(reconcile(row.lines, body).map((line) => [line.detail, line]));
  const lines = next!.lines.filter(
    ({ detail, ticks }) => JSON.stringify(ticks) !== JSON.stringify(before.get(detail)?.ticks),
  );
  const values = lines.flatMap(({ detail }) =>
    body.details.filter(({ id }) => id === detail).map((each) => shownValue(each)),
  );
  const on = change.of === 'ticks' && change.on;
  return {
    person: name,
    audience: row.audience,
    was: on ? '' : values.join(', '),
    is: on ? values.join(', ') : CHANGES.off,
  };
}

/**
 * What a change of many would do, and what it would leave. Looks at some at a time, others are served in between. Errors: NOT_ALLOWED,
 * NOT_FOUND, those of {@link readChange}.
 */
export async function previewChange(actor: Actor, wanted: { records: string[]; change: Change }): Promise<ChangePlan> {
  const records = [...new Set(wanted.records)];
  refuseChange(actor, records);
  const change = orRefuse(readChange(wanted.change));
  const plan: ChangePlan = { people: 0, cards: 0, published: 0, copies: 0, sample: [], left: [], leftCount: 0 };
  for (let at = 0; at < records.length; at += AT_ONCE) {
    await inTenant(actor, async (tx) => {
      const asked = records.slice(at, at + AT_ONCE);
      const some = await planSome(tx, actor, change, asked);
      if (some.length < asked.length) throw new Refusal({ code: 'NOT_FOUND' });
      const changed = some.filter(isChanged);
      plan.people += change.of === 'codes' ? some.filter(({ cards }) => cards.length > 0).length : changed.length;
      const cards = some.flatMap((each) => each.cards);
      plan.cards += cards.filter(({ next, publish }) => next !== null || publish || change.of === 'codes').length;
      plan.published += cards.filter(
        ({ publish, row }) => publish || (change.of === 'codes' && row.state === 'published'),
      ).length;
      for (const each of changed.slice(0, SAMPLE - plan.sample.length)) plan.sample.push(sampleOf(change, each));
      const left = some.flatMap(leftOf);
      plan.leftCount += left.length;
      plan.left.push(...left.slice(0, MOST_LEFT - plan.left.length));
      const old = changed.flatMap((each) =>
        each.details.flatMap(({ was }) => (was?.kind === 'link' || was?.kind === 'title' ? [normalised(was)] : [])),
      );
      if (old.length > 0)
        plan.copies += await countCarrying(
          tx,
          changed.flatMap((each) => each.cards.map(({ row }) => row.id)),
          [...new Set(old)],
        );
    });
    await nextTurn();
  }
  return plan;
}
