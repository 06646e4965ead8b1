import { randomUUID } from 'node:crypto';
import { mayReach, reachOf } from '@/core/access';
import { Refusal } from '@/core/errors';
import type { HouseLine, Office } from '@/core/house';
import type { ShownJob } from '@/core/jobs';
import { LIMITS } from '@/core/limits';
import { cleanLine } from '@/core/record';
import type { Clock } from '@/server/clock';
import { cardIdsOf } from '@/server/db/cards/cards';
import {
  copiesOfOffices,
  deleteOffice,
  officeForUpdate,
  officeNames,
  officeOfRecord,
  offices,
  peopleOfOffice,
  publishedOfOffice,
  setOffice,
  touchCardsOf,
  writeOffice,
} from '@/server/db/house/offices';
import { violatedUnique } from '@/server/db/jobs/failures';
import { jobsOfOffices, supersedeJobs } from '@/server/db/jobs/jobs';
import { inTenant, type Tx } from '@/server/db/pool';
import { recountCopies } from '@/server/db/wild/count';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { askForJob, shownJob } from '@/server/services/jobs/jobs';
import { noteOffice } from '@/server/services/wild/note-copy';

export type ListedOffice = Office & { people: number; copies: number; job: ShownJob | null };

/** All offices with their lines, how many people each has and copies carry them, and the proofs that were made since it was saved. Error: NOT_ALLOWED. */
export async function listOffices(actor: Actor): Promise<ListedOffice[]> {
  authorise(actor, 'house.write');
  return inTenant(actor, async (tx) => {
    const copies = await copiesOfOffices(tx);
    const jobs = await jobsOfOffices(tx);
    return (await offices(tx)).map((each) => {
      const job = jobs.get(each.id);
      return { ...each, copies: copies.get(each.id) ?? 0, job: job ? shownJob(job) : null };
    });
  });
}

/** Offices to choose from, by name; none for whoever may put nobody into one. */
export async function chooseOffices(actor: Actor): Promise<{ id: string; name: string }[]> {
  if (reachOf(actor.role, 'team.read') === 'none') return [];
  return inTenant(actor, officeNames);
}

/** The office of a person. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function officeOf(actor: Actor, recordId: string): Promise<Pick<Office, 'id' | 'name'> | null> {
  authoriseFor(actor, 'record.read', recordId);
  const found = await inTenant(actor, (tx) => officeOfRecord(tx, recordId));
  return found ? { id: found.id, name: found.name } : null;
}

/** Has the cards of an office’s people proven as they are from now on; null where none is out. */
async function proveOffice(tx: Tx, actor: Actor, id: string, clock: Clock): Promise<string | null> {
  await supersedeJobs(tx, 'prove-cards', new Date(clock.now()), id);
  const total = (await publishedOfOffice(tx, id)).length;
  return total === 0 ? null : askForJob(tx, actor, { task: 'prove-cards', input: { office: id }, total }, clock);
}

/**
 * Makes an office (`id` null), or saves a further version of one over that which its editor saw (`base`). The cards of its people show it
 * from then on, by reference: no card is written, every process sees that its copies are old, and a job proves them. Errors: NOT_ALLOWED,
 * NOT_FOUND, INPUT, OFFICE_CHANGED, OFFICE_THERE, OFFICES_FULL, TOO_MANY_JOBS.
 */
export async function saveOffice(
  actor: Actor,
  id: string | null,
  input: { base: number; name: string; lines: HouseLine[] },
  clock: Clock,
): Promise<{ id: string; number: number; cards: number; job: string | null }> {
  authorise(actor, 'house.write');
  const name = cleanLine(input.name).text.slice(0, 80);
  if (!name) throw new Refusal({ code: 'INPUT', field: 'name' });
  try {
    return await inTenant(actor, async (tx) => {
      const made = id ?? randomUUID();
      const now = id === null ? { number: 0 } : await officeForUpdate(tx, id);
      if (!now) throw new Refusal({ code: 'NOT_FOUND' });
      if (now.number !== input.base) throw new Refusal({ code: 'OFFICE_CHANGED' });
      if (id === null && (await officeNames(tx)).length >= LIMITS.offices)
        throw new Refusal({ code: 'OFFICES_FULL', limit: LIMITS.offices });
      const own = { organisation_id: actor.organisationId, saved_by: actor.userId, saved_at: new Date(clock.now()) };
      await writeOffice(tx, { ...own, id: made, name, number: now.number + 1, lines: input.lines });
      const people = await peopleOfOffice(tx, made);
      const of = { organisationId: actor.organisationId, officeId: made, cards: await cardIdsOf(tx, people) };
      await noteOffice(tx, of, input.lines, actor.organisation.country);
      const cards = await touchCardsOf(tx, people);
      const job = await proveOffice(tx, actor, made, clock);
      await recordAudit(tx, actor, 'office.saved', { kind: 'office', id: made }, clock, { cards });
      return { id: made, number: now.number + 1, cards, job };
    });
  } catch (error) {
    throw violatedUnique(error)?.startsWith('offices_name') ? new Refusal({ code: 'OFFICE_THERE' }) : error;
  }
}

/** What follows from people belonging to another office, or to none: their cards are looked at anew. */
export async function movedTo(tx: Tx, records: string[], officeId: string | null): Promise<void> {
  await setOffice(tx, records, officeId);
  await touchCardsOf(tx, records);
  await recountCopies(tx, { cards: await cardIdsOf(tx, records) });
}

/** Has people belong to an office, or with null to none. Errors: NOT_ALLOWED, NOT_FOUND, TOO_MANY_JOBS. */
export async function moveToOffice(
  actor: Actor,
  id: string | null,
  records: string[],
  clock: Clock,
): Promise<{ job: string | null }> {
  authorise(actor, 'team.write');
  return inTenant(actor, async (tx) => {
    if (id !== null && !(await officeForUpdate(tx, id))) throw new Refusal({ code: 'NOT_FOUND' });
    const own = records.filter((record) => mayReach(actor, 'team.write', record));
    await movedTo(tx, own, id);
    const job = id === null ? null : await proveOffice(tx, actor, id, clock);
    const subject = { kind: 'office', id: id ?? actor.organisationId } as const;
    await recordAudit(tx, actor, 'office.peopled', subject, clock, { people: own.length });
    return { job };
  });
}

/** Removes an office; its people stay, without one. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function removeOffice(actor: Actor, id: string, clock: Clock): Promise<void> {
  authorise(actor, 'house.write');
  await inTenant(actor, async (tx) => {
    if (!(await officeForUpdate(tx, id))) throw new Refusal({ code: 'NOT_FOUND' });
    await supersedeJobs(tx, 'prove-cards', new Date(clock.now()), id);
    await movedTo(tx, await peopleOfOffice(tx, id), null);
    await deleteOffice(tx, id);
    await recordAudit(tx, actor, 'office.removed', { kind: 'office', id }, clock);
  });
}
