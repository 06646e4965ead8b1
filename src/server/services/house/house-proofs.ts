import type { FailingCards, HousePreview } from '@/core/shown';
import { setImmediate as nextTurn } from 'node:timers/promises';
import type { Composition } from '@/core/card';
import { applyHouseStyle, type HouseStyle } from '@/core/house';
import type { ShownJob } from '@/core/jobs';
import type { FailedCheck } from '@/core/proof';
import { writtenName } from '@/core/record';
import { cardsBy, cardsForShare, publishedCards, type CardRow } from '@/server/db/cards/cards';
import { latestRevisions, revisionNumbers, type RevisionRow } from '@/server/db/cards/revisions';
import { currentAddresses } from '@/server/db/cards/directory';
import { failingProofs, writeFailingProofs, type FailingProof } from '@/server/db/house/house';
import { publishedOfOffice } from '@/server/db/house/offices';
import { jobOfHouse } from '@/server/db/jobs/jobs';
import { inTenant, type Tx } from '@/server/db/pool';
import { recordsBy, type RecordRow } from '@/server/db/cards/records';
import type { Clock } from '@/server/clock';
import { compute } from '@/server/compute';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';
import { findIn, type Later } from '@/server/services/media/pictures';
import { houseOf, houseOfOrganisation, judgeHouse } from './house-style';
import { shownJob } from '@/server/services/jobs/jobs';
import { proofOrder } from '@/server/services/publishing/proof-order';
import { linesOut } from '@/server/services/publishing/prove-card';
import type { RunningJob } from '@/server/services/jobs/run-job';

/** A card that is out, with all that its proof needs. */
type Out = { row: CardRow; revision: RevisionRow; composition: Composition; person: RecordRow; address: string | null };

/** Those of these cards that are out. */
async function outOf(tx: Tx, found: CardRow[]): Promise<Out[]> {
  const rows = found.filter(({ state }) => state === 'published');
  const ids = rows.map(({ id }) => id);
  const revisions = await latestRevisions(tx, ids);
  const people = await recordsBy(tx, [...new Set(rows.map(({ record_id }) => record_id))]);
  const addresses = await currentAddresses(tx, ids);
  return rows.flatMap((row) => {
    const [revision, person] = [revisions.get(row.id), people.get(row.record_id)];
    if (!revision || !person) return [];
    const composition = revision.composition;
    return [{ row, revision, composition, person, address: addresses.get(row.id) ?? null }];
  });
}

/** What keeps a card from passing its proof under a house style; null where nothing does. */
async function failingUnder(
  tx: Tx,
  actor: Actor,
  { row, revision, composition, person, address }: Out,
  house: HouseStyle | null,
  clock: Clock,
): Promise<Later<FailedCheck | null>> {
  const body = person.body;
  const toProve = {
    cardId: row.id,
    address,
    revised: revision.published_at.toISOString(),
    person: body,
    lines: linesOut(row, revision, body),
    words: revision.draft?.words ?? row.words,
    shown: applyHouseStyle(composition, house),
    house,
  };
  const order = await proofOrder(findIn(tx), actor, toProve, clock);
  return async () => compute('proof', await order(), { of: actor.organisationId });
}

/** So many cards are read at a time, and proven in no transaction. */
const AT_ONCE = 10;
const LOOKED_AT = 20;

/** So long proofs are made for a preview; what is left is told, and proven once the house style is saved. */
const PREVIEW_MS = 2_500;

/** Of a check so many cards are named; the rest is a number. */
const MOST_NAMED = 12;

function byCheck(failing: (Omit<FailingProof, 'revision'> & { person: string; audience: string })[]): FailingCards[] {
  const told: FailingCards[] = [];
  for (const { card_id: cardId, channel, check_name: check, finding, person, audience } of failing) {
    let same = told.find((each) => each.check === check && each.channel === channel);
    if (!same) told.push((same = { channel, check, count: 0, cards: [] }));
    same.count += 1;
    if (same.cards.length < MOST_NAMED) same.cards.push({ cardId, person, audience, finding });
  }
  return told;
}

const written = (cardId: string, { channel, check, finding }: FailedCheck) => ({
  card_id: cardId,
  channel,
  check_name: check,
  finding,
});

/** Holds every published card against a house style before it is saved. Errors: NOT_ALLOWED, FILE_GONE. */
export async function previewHouse(actor: Actor, style: HouseStyle, clock: Clock): Promise<HousePreview> {
  authorise(actor, 'house.write');
  const { organisationId } = actor;
  const { today, ids, failsToday, refused } = await inTenant(organisationId, async (tx) => ({
    today: (await houseOfOrganisation(tx))?.style ?? null,
    ids: await publishedCards(tx),
    failsToday: new Set((await failingProofs(tx)).map(({ card_id }) => card_id)),
    refused: await judgeHouse(tx, style),
  }));
  const begun = performance.now();
  const told = { cards: ids.length, changed: 0, proved: 0, mends: 0 };
  const failing: Parameters<typeof byCheck>[0] = [];
  for (let at = 0; at < ids.length; at += LOOKED_AT) {
    const isTime = performance.now() - begun <= PREVIEW_MS;
    const outs = await inTenant(organisationId, async (tx) => {
      const read = [];
      for (const out of await outOf(tx, await cardsBy(tx, ids.slice(at, at + LOOKED_AT))))
        read.push({
          out,
          then: isTime ? await failingUnder(tx, actor, out, style, clock) : null,
          now: isTime ? await failingUnder(tx, actor, out, today, clock) : null,
        });
      return read;
    });
    for (const { out, then, now } of outs) {
      if (
        JSON.stringify(applyHouseStyle(out.composition, today)) !==
        JSON.stringify(applyHouseStyle(out.composition, style))
      )
        told.changed += 1;
      if (!then || !now || performance.now() - begun > PREVIEW_MS) continue;
      // Others are served in between.
      await nextTurn();
      told.proved += 1;
      const found = await then();
      const known = failsToday.has(out.row.id);
      if (!found && known) told.mends += 1;
      if (found && !known && !(await now()))
        failing.push({
          ...written(out.row.id, found),
          person: writtenName(out.composition.name),
          audience: out.row.audience,
        });
    }
  }
  return { ...told, refused, fails: byCheck(failing) };
}

/**
 * Proves every card that is out, or those of an office's people, under the house style that holds, and writes down those that fail. A second try starts over; a
 * version saved meanwhile stops it and asks for a proof of its own.
 */
export async function proveHouse({ actor, clock, input, progress }: RunningJob): Promise<Record<string, number>> {
  // Who puts people into an office need not be one who writes it.
  authorise(actor, input.office === undefined ? 'house.write' : 'team.read');
  const { organisationId } = actor;
  const ids = await inTenant(organisationId, (tx) =>
    input.office === undefined ? publishedCards(tx) : publishedOfOffice(tx, String(input.office)),
  );
  let failing = 0;
  for (let at = 0; at < ids.length; at += AT_ONCE) {
    const asked = ids.slice(at, at + AT_ONCE);
    const outs = await inTenant(organisationId, async (tx) => {
      const read = [];
      for (const out of await outOf(tx, await cardsBy(tx, asked))) {
        const house = await houseOf(tx, out.row);
        read.push({ out, fails: await failingUnder(tx, actor, out, house?.style ?? null, clock) });
      }
      return read;
    });
    const rows: (FailingProof | { card_id: string; revision: number; finding: null })[] = [];
    for (const { out, fails } of outs) {
      const found = await fails();
      const revision = out.revision.number;
      rows.push(found ? { ...written(out.row.id, found), revision } : { card_id: out.row.id, revision, finding: null });
    }
    failing += await inTenant(organisationId, async (tx) => {
      await cardsForShare(tx, asked);
      // What was published meanwhile has been proven by itself.
      const numbers = await revisionNumbers(tx, asked);
      const same = rows.filter((row) => numbers.get(row.card_id) === row.revision);
      const fail = same.flatMap((row) => (row.finding === null ? [] : row));
      await writeFailingProofs(
        tx,
        organisationId,
        same.map((row) => row.card_id),
        fail,
      );
      return fail.length;
    });
    await progress(Math.min(at + AT_ONCE, ids.length), ids.length);
  }
  return { cards: ids.length, failing };
}

/** The proofs under the house style that holds: the job that makes them, and the cards that fail, by check. Error: NOT_ALLOWED. */
export async function readHouseProofs(actor: Actor): Promise<{ job: ShownJob | null; failing: FailingCards[] }> {
  authorise(actor, 'house.write');
  return inTenant(actor, async (tx) => {
    const house = await houseOfOrganisation(tx);
    const job = house ? await jobOfHouse(tx, house.number) : undefined;
    return { job: job ? shownJob(job) : null, failing: byCheck(await failingProofs(tx)) };
  });
}
