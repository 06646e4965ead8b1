import { mayReach } from '@/core/access';
import { composeToday, goesOut, privacyOf, reconcile, type Privacy } from '@/core/card';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import type { Detail, PersonRecord } from '@/core/record';
import { lineTypeOf } from '@/core/record/line-type';
import { changesSince } from '@/core/revisions';
import type { MendAct, MendEntry, MendPlan, PublicChannel } from '@/core/shown';
import { normalised, valueShown } from '@/core/wild/value';
import type { Clock } from '@/server/clock';
import { cardsBy, type CardRow } from '@/server/db/cards/cards';
import { planOf } from '@/server/db/cards/plans';
import { recordNames, recordsBy, type RecordRow } from '@/server/db/cards/records';
import { latestRevision } from '@/server/db/cards/revisions';
import { inTenant, type Tx } from '@/server/db/pool';
import { publicOf, type PublicRow } from '@/server/db/wild/exposed';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';
import { askForJob } from '@/server/services/jobs/jobs';

/** Whose private values are mended, which kinds of them, and how. */
export type MendAsked = { records: string[]; privacies: Privacy[]; act: MendAct };

/** The same with what is changed: lines of a card, or details of a record. */
export type PlannedMend = MendEntry & { copies: PublicChannel[]; lines: string[] };
type Planned = { mended: PlannedMend[]; left: MendPlan['left'] };

/** So many people are looked at in one breath. */
const AT_ONCE = 25;

/** Whether a card says what its latest revision says, so that nothing else goes out with a change. */
export async function isAsPublished(tx: Tx, row: CardRow, body: PersonRecord, country: string): Promise<boolean> {
  const latest = await latestRevision(tx, row.id);
  const today = composeToday(body, row, country);
  return latest !== undefined && today.ok && changesSince(latest.composition, today.value).length === 0;
}

const textsOf = (rows: PublicRow[]): string[] => [...new Set(rows.map(({ detail }) => valueShown(detail)))];
const grouped = <R>(rows: R[], keyOf: (row: R) => string): Map<string, R[]> => {
  const found = new Map<string, R[]>();
  for (const row of rows) found.set(keyOf(row), [...(found.get(keyOf(row)) ?? []), row]);
  return found;
};
const isLive = ({ channel }: PublicRow): boolean => channel === 'page' || channel === 'file';

type Of = { person: RecordRow; rows: PublicRow[]; cards: Map<string, CardRow>; country: string };

/** What would be taken off the cards of one person. */
async function planTakingOff(tx: Tx, { person, rows, cards, country }: Of): Promise<Planned> {
  const planned: Planned = { mended: [], left: [] };
  for (const [cardId, own] of grouped(rows, ({ card_id }) => card_id)) {
    const of = {
      recordId: person.id,
      person: person.written_name,
      card: { id: cardId, audience: own[0]!.audience },
    };
    const leave = (why: MendPlan['left'][number]['why'], which: PublicRow[]) => {
      if (which.length > 0) planned.left.push({ ...of, why, values: textsOf(which) });
    };
    const row = cards.get(cardId);
    const said = own.filter(({ source }) => source === 'card');
    leave(
      'inside',
      own.filter(({ source }) => source === 'inside'),
    );
    const live = new Set(said.filter(isLive).map(({ line }) => line));
    leave(
      'copies only',
      said.filter(({ line }) => !live.has(line)),
    );
    const onCard = said.filter(({ line }) => live.has(line));
    if (onCard.length === 0) continue;
    const ticked = reconcile(row?.lines ?? [], person.body).filter((line) => live.has(line.detail) && goesOut(line));
    // What is planned to go out later would give it out again.
    if ((await planOf(tx, cardId))?.publish_at) {
      leave('planned', onCard);
      continue;
    }
    if (!row || ticked.length === 0 || !(await isAsPublished(tx, row, person.body, country))) {
      leave('changed', onCard);
      continue;
    }
    const copies = [...new Set(onCard.filter((each) => !isLive(each)).map(({ channel }) => channel))];
    planned.mended.push({ ...of, values: textsOf(onCard), copies, lines: ticked.map(({ detail }) => detail) });
  }
  return planned;
}

/** A detail that was marked as for work. */
export const forWork = (detail: Extract<Detail, { uses: unknown }>): Detail =>
  ({ ...detail, uses: [...new Set([...detail.uses, 'work' as const])] }) as Detail;

/** What of one person's record would be marked as for work. */
function planForWork({ person, rows }: Of): Planned {
  const { id: recordId, written_name, body } = person;
  const of = { recordId, person: written_name, card: null };
  const said = rows.filter(({ source }) => source === 'card');
  const inside = rows.filter(({ source }) => source === 'inside');
  const lines: string[] = [];
  for (const detail of body.details) {
    // What the record says by now and nobody has seen in public is not meant.
    const isPublic = said.some(
      ({ line, value }) => line === detail.id && 'uses' in detail && value === normalised(detail),
    );
    if (!('uses' in detail) || !isPublic) continue;
    const marked = forWork(detail);
    const after = { ...body, details: body.details.map((each) => (each === detail ? marked : each)) };
    if (privacyOf(marked, after, lineTypeOf) === null) lines.push(detail.id);
  }
  const now = new Map(body.details.map((detail) => [detail.id, detail]));
  const isOther = ({ line, value }: PublicRow) => {
    const detail = now.get(line);
    return detail !== undefined && 'uses' in detail && value !== normalised(detail);
  };
  const other = said.filter(isOther);
  const marked = said.filter((row) => lines.includes(row.line) && !isOther(row));
  const not = said.filter((row) => !lines.includes(row.line) && !isOther(row));
  const left = (why: MendPlan['left'][number]['why'], which: PublicRow[]): MendPlan['left'] =>
    which.length > 0 ? [{ ...of, why, values: textsOf(which) }] : [];
  return {
    mended: lines.length > 0 ? [{ ...of, values: textsOf(marked), copies: [], lines }] : [],
    left: [...left('inside', inside), ...left('changed', other), ...left('not marked', not)],
  };
}

/** What a mend of these people would do; what they need not agree on with anybody else is looked up at once. */
export async function planMends(tx: Tx, actor: Actor, { records, privacies, act }: MendAsked): Promise<Planned> {
  const people = await recordsBy(tx, records);
  const wanted = new Set(privacies);
  const rows = (await publicOf(tx, [...people.keys()], 'private')).filter(
    ({ privacy }) => privacy !== null && wanted.has(privacy),
  );
  const cards = new Map(
    (await cardsBy(tx, [...new Set(rows.map(({ card_id }) => card_id))])).map((row) => [row.id, row]),
  );
  const byPerson = grouped(rows, ({ record_id }) => record_id);
  const planned: Planned = { mended: [], left: [] };
  for (const person of [...people.values()].sort((a, b) => a.written_name.localeCompare(b.written_name))) {
    const of = { person, rows: byPerson.get(person.id) ?? [], cards, country: actor.organisation.country };
    const { mended, left } = act === 'take off' ? await planTakingOff(tx, of) : planForWork(of);
    planned.mended.push(...mended);
    planned.left.push(...left);
  }
  return planned;
}

function refuseMend(actor: Actor, { records, privacies, act }: MendAsked): void {
  authorise(actor, 'privacy.read');
  const action = act === 'take off' ? 'card.publish' : 'record.write';
  authorise(actor, action);
  if (records.length === 0 || privacies.length === 0) throw new Refusal({ code: 'NOTHING_CHOSEN' });
  if (records.length > LIMITS.mendedTogether)
    throw new Refusal({ code: 'TOO_MANY_CHOSEN', limit: LIMITS.mendedTogether });
  for (const id of records)
    for (const each of ['privacy.read', action] as const)
      if (!mayReach(actor, each, id)) throw new Refusal({ code: 'NOT_FOUND' });
}

/** Error: NOT_FOUND where one of them is not there. */
async function refuseUnknown(tx: Tx, records: string[]): Promise<void> {
  const wanted = [...new Set(records)];
  if ((await recordNames(tx, wanted)).length < wanted.length) throw new Refusal({ code: 'NOT_FOUND' });
}

/** What a mend would do and what it would leave, before it is asked for. Errors: NOT_ALLOWED, NOT_FOUND, NOTHING_CHOSEN, TOO_MANY_CHOSEN. */
export async function previewMend(actor: Actor, asked: MendAsked): Promise<MendPlan> {
  refuseMend(actor, asked);
  const records = [...new Set(asked.records)];
  const plan: MendPlan = { mended: [], left: [] };
  for (let at = 0; at < records.length; at += AT_ONCE) {
    const some = { ...asked, records: records.slice(at, at + AT_ONCE) };
    const { mended, left } = await inTenant(actor, async (tx) => {
      await refuseUnknown(tx, some.records);
      return planMends(tx, actor, some);
    });
    plan.mended.push(
      ...mended.map(({ recordId, person, card, values, copies }) => ({ recordId, person, card, values, copies })),
    );
    plan.left.push(...left);
  }
  return plan;
}

/** Asks for it. Errors: as {@link previewMend}, TOO_MANY_JOBS. */
export async function askToMend(actor: Actor, asked: MendAsked, clock: Clock): Promise<{ job: string }> {
  refuseMend(actor, asked);
  const { records, privacies, act } = asked;
  const input = { records: [...new Set(records)].join(','), privacies: privacies.join(','), act };
  const job = await inTenant(actor, async (tx) => {
    await refuseUnknown(tx, records);
    return askForJob(tx, actor, { task: 'mend-privacy', input, total: new Set(records).size }, clock);
  });
  return { job };
}
