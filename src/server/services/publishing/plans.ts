import type { ShownPlan } from '@/core/shown';
import { readAddress } from '@/core/address';
import { isTransient, orRefuse, Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { cleanLine } from '@/core/record';
import { cardForUpdate, setCardState } from '@/server/db/cards/cards';
import { latestRevision } from '@/server/db/cards/revisions';
import { touchCard } from '@/server/db/cards/directory';
import {
  deletePlan,
  duePlans,
  planOf,
  planToCarryOut,
  retryPlan,
  writePlan,
  type PlanRow,
} from '@/server/db/cards/plans';
import { inTenant, outsideTenants, type Tx } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { emptyPlan } from './plan-end';
import { Outdated, outgoing, provenThen, proveToPublish, type Planned } from './prove-to-publish';
import { publishRow } from './publish-card';
import { actorOfUser } from '@/server/services/accounts/sessions';
import { faultAt, faultIsOver } from '@/server/services/jobs/faults';

export const shownPlan = (row: PlanRow | undefined): ShownPlan | null =>
  row
    ? {
        publishAt: row.publish_at?.toISOString() ?? null,
        address: row.address,
        note: row.note,
        endsAt: row.ends_at?.toISOString() ?? null,
        endsWith: row.ends_with,
        problem: row.problem,
        composition: row.publish_at ? row.composition : null,
      }
    : null;

/**
 * Plans when a card is published, as it is shown now, and when it ends and with what; both null takes a plan back. `seen` are the
 * versions that the person looked at. Errors: NOT_FOUND, CARD_CHANGED, RECORD_CHANGED, PROOF_FAILED, PLAN_IN_THE_PAST,
 * PLAN_ENDS_BEFORE, CARD_NOT_OUT where it would end without ever having begun, and the `ADDRESS_…` codes.
 */
export async function planCard(
  actor: Actor,
  id: string,
  input: Omit<ShownPlan, 'problem' | 'composition'> & { seen?: { version: number; recordVersion: number } },
  clock: Clock,
): Promise<{ plan: ShownPlan | null }> {
  authorise(actor, 'card.publish');
  const [publishAt, endsAt] = [input.publishAt, input.endsAt].map((at) => (at ? new Date(at) : null));
  const address = publishAt ? orRefuse(readAddress(input.address)) : '';
  const plan = (seal: string) =>
    inTenant(actor, async (tx) => {
      const row = await cardForUpdate(tx, id);
      if (!row) throw new Refusal({ code: 'NOT_FOUND' });
      authoriseFor(actor, 'card.publish', row.record_id);
      if ([publishAt, endsAt].some((at) => at && at.getTime() <= clock.now()))
        throw new Refusal({ code: 'PLAN_IN_THE_PAST' });
      if (publishAt && endsAt && endsAt <= publishAt) throw new Refusal({ code: 'PLAN_ENDS_BEFORE' });
      if (endsAt && !publishAt && row.state !== 'published') throw new Refusal({ code: 'CARD_NOT_OUT' });
      if (!publishAt && !endsAt) await deletePlan(tx, id);
      else {
        // What is planned was proven; its composition is kept as it was shown.
        const out = publishAt ? await outgoing(tx, actor, row, address) : null;
        if (out && out.seal !== seal) throw new Outdated();
        await writePlan(tx, {
          ...emptyPlan(actor, id),
          publish_at: publishAt ?? null,
          address,
          note: cleanLine(input.note).text.slice(0, LIMITS.revisionNote),
          ends_at: endsAt ?? null,
          ends_with: endsAt ? (input.endsWith ?? 'resting') : null,
          composition: out?.composition ?? null,
          draft: out?.draft ?? null,
        });
      }
      // Recipients' answers know of an end.
      if (await latestRevision(tx, id)) await touchCard(tx, id, actor.organisationId);
      await recordAudit(tx, actor, 'card.planned', { kind: 'card', id }, clock);
      return { plan: shownPlan(await planOf(tx, id)) };
    });
  return provenThen(async () => (publishAt ? proveToPublish(actor, id, { address, ...input.seen }, clock) : ''), plan);
}

/** What fails for no reason of its own is tried again after so long, doubled each time up to a day; in milliseconds. */
const FIRST_RETRY_MS = 60_000;
const LONGEST_RETRY_MS = 86_400_000;

/**
 * Carries out what is due in any organisation; answers with how many cards changed. Several processes may do so at once. A plan that
 * fails costs only itself: it is written down as a fault and tried again later.
 */
export async function runDuePlans(clock: Clock): Promise<number> {
  const due = await outsideTenants((db) => duePlans(db, new Date(clock.now())));
  const byOrganisation = new Map<string, typeof due>();
  for (const each of due)
    byOrganisation.set(each.organisation_id, [...(byOrganisation.get(each.organisation_id) ?? []), each]);
  const waiting = [...byOrganisation];
  let carried = 0;
  // One organisation after the other in each lane: a thousand plans of one, or one of its that takes long, hold up none of another.
  const lane = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) {
      const [organisation, plans] = next;
      const now = plans.splice(0, AT_ONCE);
      if (plans.length > 0) waiting.push([organisation, plans]);
      for (const { card_id } of now) if (await carryOutOne(organisation, card_id, clock)) carried += 1;
    }
  };
  await Promise.all(Array.from({ length: LANES }, lane));
  return carried;
}

const LANES = 3;
const AT_ONCE = 5;

async function carryOutOne(organisation: string, id: string, clock: Clock): Promise<boolean> {
  try {
    const carried = await carryOut(organisation, id, clock);
    await faultIsOver(organisation, 'plans', id);
    return carried;
  } catch (error) {
    if (error instanceof Refusal && error.problem.code === 'DATABASE_UNAVAILABLE') throw error;
    await inTenant(organisation, (tx) => postponePlan(tx, id, clock));
    await faultAt({ organisationId: organisation, sweep: 'plans', subject: id, error }, clock);
    return false;
  }
}

async function postponePlan(tx: Tx, id: string, clock: Clock): Promise<void> {
  const plan = await planOf(tx, id);
  if (!plan) return;
  const wait = Math.min(LONGEST_RETRY_MS, FIRST_RETRY_MS * 2 ** Math.min(plan.tries, 20));
  await retryPlan(tx, id, { tries: plan.tries + 1, retry_at: new Date(clock.now() + wait) });
}

async function carryOut(organisation: string, id: string, clock: Clock): Promise<boolean> {
  const planner = await inTenant(organisation, async (tx) => (await planOf(tx, id))?.planned_by);
  const actor = planner ? await actorOfUser(planner, organisation) : null;
  try {
    return await provenThen(
      async () => {
        const plan = await inTenant(organisation, (tx) => planOf(tx, id));
        // With the rights that whoever planned it has today.
        if (!plan || !isToPublish(plan, clock)) return '';
        if (!actor) throw new Refusal({ code: 'NOT_ALLOWED' });
        return proveToPublish(actor, id, { address: plan.address, planned: plannedOf(plan) }, clock);
      },
      (seal) =>
        inTenant(organisation, async (tx) => {
          const plan = await planToCarryOut(tx, id);
          if (!plan) return false;
          if (isToPublish(plan, clock)) return publishPlanned(tx, actor, plan, clock, seal);
          return isDue(plan.ends_at, clock) ? endPlanned(tx, actor, plan, clock) : false;
        }),
    );
  } catch (error) {
    if (!(error instanceof Refusal) || isTransient(error.problem)) throw error;
    // Told on the card; tried again once somebody plans anew.
    await inTenant(organisation, async (tx) => {
      const plan = await planOf(tx, id);
      if (plan) await writePlan(tx, { ...plan, problem: error.problem });
    });
    return false;
  }
}

const plannedOf = ({ composition, draft }: PlanRow): Planned => (composition && draft ? { composition, draft } : null);

const isDue = (at: Date | null, clock: Clock) => at !== null && at.getTime() <= clock.now();
/** What failed once waits for somebody, also when the end comes. */
const isToPublish = (plan: PlanRow, clock: Clock) => isDue(plan.publish_at, clock) && !plan.problem;

async function publishPlanned(
  tx: Tx,
  actor: Actor | null,
  plan: PlanRow,
  clock: Clock,
  seal: string,
): Promise<boolean> {
  const row = await cardForUpdate(tx, plan.card_id);
  if (!row || !actor) throw new Refusal({ code: 'NOT_ALLOWED' });
  authoriseFor(actor, 'card.publish', row.record_id);
  await publishRow(tx, actor, row, plan.address, clock, { note: plan.note, seal, planned: plannedOf(plan) });
  if (plan.ends_at)
    await writePlan(tx, { ...plan, publish_at: null, address: '', note: '', composition: null, draft: null });
  else await deletePlan(tx, plan.card_id);
  return true;
}

async function endPlanned(tx: Tx, actor: Actor | null, plan: PlanRow, clock: Clock): Promise<boolean> {
  const row = await cardForUpdate(tx, plan.card_id);
  // A card that nobody may publish any more still ends: what was promised to recipients is kept.
  await deletePlan(tx, plan.card_id);
  if (row?.state !== 'published') return false;
  await setCardState(tx, plan.card_id, { state: plan.ends_with! });
  await touchCard(tx, plan.card_id, plan.organisation_id);
  if (actor)
    await recordAudit(tx, actor, 'card.state-set', { kind: 'card', id: plan.card_id }, clock, {
      state: plan.ends_with!,
    });
  return true;
}
