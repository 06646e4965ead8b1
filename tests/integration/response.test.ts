import fc from 'fast-check';
import { asOwner } from '../../commands/cluster/databases';
import { summarise, type EventKind, type ResponseEvent } from '@/core/response';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { createCard } from '@/server/services/cards/create-card';
import { bringBackCard, deleteCard } from '@/server/services/cards/deletion';
import { createRecord } from '@/server/services/records/create-record';
import { keepDueFigures } from '@/server/services/response/figures';
import { readResponse } from '@/server/services/response/read-response';
import { clockAt, databaseUrl, newActor, useDatabase } from './place';

// What is kept of ended days holds against counting all events again, by the definitions of the product in the core.
useDatabase();
const clock = clockAt('2026-11-24T15:00:00Z');
const owner = (sql: string, values: unknown[] = []) =>
  asOwner(databaseUrl, async (client) => (await client.query<Record<string, unknown>>(sql, values)).rows);

/** An organisation with three cards of one person, and one code of the first. */
async function ground() {
  const actor = await newActor(clock);
  const { recordId, cardId } = await createRecord(actor, { name: 'Maud Aldercott', phone: '', email: '' }, clock);
  const more = [1, 2].map((n) => createCard(actor, { recordId, audience: `Other ${n}`, isPrivate: false }, clock));
  const cards = [cardId, ...(await Promise.all(more)).map((each) => each.cardId)];
  const [out] = await owner(
    `INSERT INTO hand_outs (id, organisation_id, card_id, code, placement, created_at) VALUES (gen_random_uuid(), $1, $2, left(md5($3), 8), 'Door', now()) RETURNING id`,
    [actor.organisationId, cardId, cardId],
  );
  return { actor: { ...actor, ownRecord: recordId }, cards, out: out!.id as string };
}

const insert = (actor: Actor, events: ResponseEvent[]) =>
  owner(
    `INSERT INTO events (organisation_id, card_id, hand_out_id, kind, line, visitor, occurred_at)
     SELECT $1, card, "handOut", kind, line, decode(visitor, 'hex'), to_timestamp(at / 1000.0)
     FROM json_to_recordset($2) AS e(card uuid, "handOut" uuid, kind text, line text, visitor text, at double precision)`,
    [actor.organisationId, JSON.stringify(events)],
  );

const dueDays = async ({ organisationId }: Actor) =>
  (
    await owner('SELECT day::text AS day FROM response_days WHERE organisation_id = $1 AND due ORDER BY 1', [
      organisationId,
    ])
  ).map(({ day }) => day);

const someEvents = (cards: string[], out: string) =>
  fc
    .array(
      fc.record({
        kind: fc.constantFrom<EventKind>('view', 'view', 'view', 'save', 'tap', 'bot'),
        card: fc.constantFrom(...cards),
        visitor: fc.constantFrom('a', 'b', 'c', null).map((each) => each && each.repeat(32)),
        line: fc.constantFrom('d1', 'd2'),
        // Minutes before now, over three days, so that visits meet midnight and gaps of half an hour.
        at: fc.integer({ min: 1, max: 3 * 1_440 }).map((minutes) => clock.now() - minutes * 60_000),
        byCode: fc.boolean(),
      }),
      { minLength: 1, maxLength: 120 },
    )
    .map((list) =>
      // No two at one instant: their order would be the database's.
      [...new Map(list.map((each) => [each.at, each])).values()].map(({ byCode, ...event }) => ({
        ...event,
        handOut: byCode && event.card === cards[0] ? out : null,
      })),
    );

const PERIOD = { first: '2026-11-18', last: '2026-11-24', timeZone: 'Europe/London' };
const plain = ({ cards: _, ...summary }: ReturnType<typeof summarise>) => ({
  ...summary,
  handOuts: [...summary.handOuts].sort((a, b) => String(a.handOut).localeCompare(String(b.handOut))),
});

test('a report is the same before its days are kept, after, and counted anew: of all, of one card, of a holder’s', async () => {
  const { actor, cards, out } = await ground();
  const holder = { ...actor, role: 'holder' as const };
  await fc.assert(
    fc.asyncProperty(someEvents(cards, out), async (events) => {
      await owner('DELETE FROM events WHERE organisation_id = $1', [actor.organisationId]);
      await insert(actor, events);
      const asked = async () =>
        Promise.all(
          [
            readResponse(actor, { cardId: null, days: 7 }, clock),
            readResponse(actor, { cardId: cards[0]!, days: 7 }, clock),
            readResponse(holder, { cardId: null, days: 7 }, clock),
          ].map(async (report) => plain((await report).summary)),
        );
      const of = (list: ResponseEvent[]) => plain(summarise(list, PERIOD));
      const expected = [of(events), of(events.filter(({ card }) => card === cards[0])), of(events)];
      expect(await asked()).toEqual(expected);
      await keepDueFigures(clock);
      expect((await dueDays(actor)).filter((day) => day !== '2026-11-24')).toEqual([]);
      expect(await asked()).toEqual(expected);
    }),
    { numRuns: 40 },
  );
});

const view = (card: string, at: string, visitor = 'a'): ResponseEvent => ({
  kind: 'view',
  card,
  handOut: null,
  line: null,
  visitor: visitor.repeat(32),
  at: Date.parse(at),
});
const viewsOf = async (actor: Actor) => (await readResponse(actor, { cardId: null, days: 7 }, clock)).summary.totals;

test('a day is counted again when something of it comes late, when a card is hidden or back, and in another time zone', async () => {
  const { actor, cards } = await ground();
  await insert(actor, [view(cards[0]!, '2026-11-20T10:00:00Z'), view(cards[1]!, '2026-11-20T23:30:00Z', 'b')]);
  await keepDueFigures(clock);
  expect(await dueDays(actor)).toEqual([]);
  await insert(actor, [view(cards[2]!, '2026-11-20T12:00:00Z', 'c')]);
  expect(await dueDays(actor)).toEqual(['2026-11-20']);
  expect(await viewsOf(actor)).toMatchObject({ views: 3, visitors: 3 });
  await keepDueFigures(clock);
  await deleteCard(actor, cards[1]!, clock);
  expect(await viewsOf(actor)).toMatchObject({ views: 2 });
  await keepDueFigures(clock);
  await bringBackCard(actor, cards[1]!, clock);
  expect(await viewsOf(actor)).toMatchObject({ views: 3 });
  await owner(`UPDATE organisations SET time_zone = 'Asia/Kathmandu' WHERE id = $1`, [actor.organisationId]);
  const east = { ...actor, organisation: { ...actor.organisation, timeZone: 'Asia/Kathmandu' } };
  await keepDueFigures(clock);
  const { summary } = await readResponse(east, { cardId: null, days: 7 }, clock);
  expect(summary.days.filter(({ views }) => views > 0).map(({ day, views }) => [day, views])).toEqual([
    ['2026-11-20', 2],
    ['2026-11-21', 1],
  ]);
});

test('what comes in while a day is being counted is not lost', async () => {
  const { actor, cards } = await ground();
  await insert(actor, [view(cards[0]!, '2026-11-20T10:00:00Z')]);
  const [{ touched }] = (await inTenant(actor.organisationId, (tx) => tx('response_days').select('touched'))) as [
    { touched: number },
  ];
  await insert(actor, [view(cards[0]!, '2026-11-20T11:00:00Z')]);
  const { keepFigures } = await import('@/server/db/response/response');
  const day = { organisation_id: actor.organisationId, day: '2026-11-20', touched };
  expect(await inTenant(actor.organisationId, (tx) => keepFigures(tx, day, []))).toBe(false);
  expect(await dueDays(actor)).toEqual(['2026-11-20']);
});
