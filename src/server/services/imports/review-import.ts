import type { OpenedImport, ShownEntry, Verdict } from '@/core/imports';
import { differencesOf, shownValue } from '@/core/record';
import { Refusal } from '@/core/errors';
import { hasEnded } from '@/core/jobs';
import type { Clock } from '@/server/clock';
import {
  chooseAll,
  chooseEntry,
  countEntries,
  entriesFrom,
  entry as entryRow,
  importForUpdate,
  importOf,
  updateImport,
  type EntryRow,
  type ImportRow,
} from '@/server/db/jobs/imports';
import { job } from '@/server/db/jobs/jobs';
import { inTenant, type Tx } from '@/server/db/pool';
import { record } from '@/server/db/cards/records';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';
import { askForJob } from '@/server/services/jobs/jobs';

const STRETCH = 100;

/** An import with a stretch of its contacts, of one verdict or all. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function openImport(
  actor: Actor,
  id: string,
  asked: { verdict: Verdict | null; from: number },
): Promise<OpenedImport> {
  authorise(actor, 'record.create');
  return inTenant(actor, async (tx) => {
    const row = await importOf(tx, id);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    const rows = await entriesFrom(tx, id, { ...asked, most: STRETCH + 1 });
    const entries: ShownEntry[] = [];
    for (const each of rows.slice(0, STRETCH)) entries.push(await shown(tx, each));
    return {
      id,
      fileName: row.file_name,
      state: row.state,
      job: row.job_id,
      warnings: row.warnings,
      counts: await countEntries(tx, id),
      entries,
      next: rows[STRETCH]?.at ?? null,
    };
  });
}

async function shown(tx: Tx, row: EntryRow): Promise<ShownEntry> {
  const known = row.record_id ? await record(tx, row.record_id) : undefined;
  const differences = known && row.made_record === null ? differencesOf(known.body, row.body, row.has_photo) : [];
  return {
    at: row.at,
    line: row.line,
    name: row.name,
    about: row.body.details
      .slice(0, 6)
      .map((detail) => shownValue(detail))
      .filter(Boolean)
      .join(' · ')
      .slice(0, 300),
    verdict: row.verdict,
    take: row.take,
    record: known ? { id: known.id, name: known.written_name } : null,
    differences: differences.map((each) => ({ ...each, chosen: row.chosen.includes(each.key) })),
    kept: [...new Set(row.body.kept.map(({ property }) => property.split(/[;:]/)[0]!.slice(0, 40)))],
    warnings: row.warnings,
    tooLarge: row.too_large,
    made: row.made_record ? { recordId: row.made_record, cardId: row.made_card } : null,
    undone: row.undone,
  };
}

/** Loads an import that no job works on, locked. Errors: NOT_FOUND, IMPORT_BUSY. */
async function openIdle(tx: Tx, id: string): Promise<ImportRow> {
  const row = await importForUpdate(tx, id);
  if (!row) throw new Refusal({ code: 'NOT_FOUND' });
  const busy = row.state === 'reading' || row.state === 'taking' || row.state === 'undoing';
  // A job that failed for good leaves its import as it was; what came in can still be undone.
  const working = busy && row.job_id ? await job(tx, row.job_id) : undefined;
  if (working && !hasEnded(working.state)) throw new Refusal({ code: 'IMPORT_BUSY' });
  return row;
}

/** Loads an import that can still be chosen from, locked. Errors: NOT_FOUND, IMPORT_BUSY, IMPORT_ENDED. */
async function openForChoice(tx: Tx, id: string): Promise<void> {
  const { state } = await openIdle(tx, id);
  if (state !== 'ready') throw new Refusal({ code: 'IMPORT_ENDED' });
}

/** Whether a contact is taken in, and which of its lines. Errors: NOT_ALLOWED, NOT_FOUND, IMPORT_BUSY, IMPORT_ENDED. */
export async function chooseContact(
  actor: Actor,
  id: string,
  at: number,
  choice: { take?: boolean | undefined; chosen?: string[] | undefined },
): Promise<void> {
  authorise(actor, 'record.create');
  await inTenant(actor, async (tx) => {
    await openForChoice(tx, id);
    if (!(await entryRow(tx, id, at))) throw new Refusal({ code: 'NOT_FOUND' });
    await chooseEntry(tx, id, at, {
      ...(choice.take === undefined ? {} : { take: choice.take }),
      ...(choice.chosen === undefined ? {} : { chosen: choice.chosen }),
    });
  });
}

/** Takes all contacts of a verdict in, or none of them. Errors: as {@link chooseContact}. */
export async function chooseContacts(
  actor: Actor,
  id: string,
  choice: { verdict: Verdict; take: boolean },
): Promise<void> {
  authorise(actor, 'record.create');
  await inTenant(actor, async (tx) => {
    await openForChoice(tx, id);
    await chooseAll(tx, id, choice.verdict, choice.take);
  });
}

/** Asks for the chosen contacts to be taken in. Errors: as {@link chooseContact}, NOTHING_CHOSEN, TOO_MANY_JOBS. */
export async function takeImport(actor: Actor, id: string, clock: Clock): Promise<{ job: string }> {
  authorise(actor, 'record.create');
  return inTenant(actor, async (tx) => {
    await openForChoice(tx, id);
    const total = (await countEntries(tx, id)).reduce((sum, { chosen }) => sum + chosen, 0);
    if (total === 0) throw new Refusal({ code: 'NOTHING_CHOSEN' });
    const asked = await askForJob(tx, actor, { task: 'take-contacts', input: { import: id }, total }, clock);
    await updateImport(tx, id, { state: 'taking', job_id: asked, updated_at: new Date(clock.now()) });
    return { job: asked };
  });
}

/** Asks for an import to be undone. Errors: NOT_ALLOWED, NOT_FOUND, IMPORT_BUSY, IMPORT_ENDED, TOO_MANY_JOBS. */
export async function undoImport(actor: Actor, id: string, clock: Clock): Promise<{ job: string }> {
  authorise(actor, 'record.create');
  return inTenant(actor, async (tx) => {
    const { state } = await openIdle(tx, id);
    if (state === 'reading' || state === 'ready' || state === 'failed' || state === 'undone')
      throw new Refusal({ code: 'IMPORT_ENDED' });
    const total = (await countEntries(tx, id)).reduce((sum, { made }) => sum + made, 0);
    const asked = await askForJob(tx, actor, { task: 'undo-contacts', input: { import: id }, total }, clock);
    await updateImport(tx, id, { state: 'undoing', job_id: asked, updated_at: new Date(clock.now()) });
    return { job: asked };
  });
}
