import { randomUUID } from 'node:crypto';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { cleanLine } from '@/core/record';
import type { Column, RunOptions, SheetPlace } from '@/core/roster';
import type { Clock } from '@/server/clock';
import { compute } from '@/server/compute';
import type { SheetColumns } from '@/server/compute/tasks/sheet';
import { card } from '@/server/db/cards/cards';
import { inTenant } from '@/server/db/pool';
import { clearRows, insertRows } from '@/server/db/roster/rows';
import { deleteMapping, insertRun, keepMapping, mappings, updateRun } from '@/server/db/roster/runs';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { askForJob } from '@/server/services/jobs/jobs';
import { openIdle } from './idle';

const refuseTooLarge = (bytes: Buffer) => {
  if (bytes.length > LIMITS.sheetBytes) throw new Refusal({ code: 'FILE_TOO_LARGE', limitBytes: LIMITS.sheetBytes });
};

/**
 * The columns of a sheet, with what each seems to hold and a few of its values, to be looked at; nothing of it is kept. `mapping` is the
 * kept one that knows most of its headings. Errors: NOT_ALLOWED, FILE_TOO_LARGE, and those of a sheet.
 */
export async function readColumns(
  actor: Actor,
  bytes: Buffer,
  asked: { sheet: number; headings: number | null },
): Promise<SheetColumns & { mapping: { id: string; name: string } | null }> {
  authorise(actor, 'roster.run');
  refuseTooLarge(bytes);
  const read = await compute('sheet columns', { bytes, ...asked }, { of: actor.organisationId });
  const kept = await inTenant(actor, mappings);
  const same = (one: string, other: string) => one.trim().toLowerCase() === other.trim().toLowerCase();
  const best = kept
    .map((mapping) => ({
      mapping,
      known: read.columns.filter(({ heading }) => mapping.columns.some((each) => same(each.heading, heading))).length,
    }))
    .sort((a, b) => b.known - a.known)[0];
  if (!best || best.known < Math.max(1, best.mapping.columns.length / 2)) return { ...read, mapping: null };
  const columns = read.columns.map((column) => {
    const known = best.mapping.columns.find(({ heading }) => same(heading, column.heading));
    return known ? { ...column, field: known.field } : column;
  });
  return { ...read, columns, mapping: { id: best.mapping.id, name: best.mapping.name } };
}

/**
 * Begins a run: how its sheet is read, the card that others are made like, and how it is carried out. `keepAs` keeps the mapping under a
 * name. The sheet itself is given next, see {@link giveSheet}. Errors: NOT_ALLOWED, NOT_FOUND, NO_KEY_COLUMN, MAPPINGS_FULL.
 */
export async function beginRun(
  actor: Actor,
  input: {
    name: string;
    cardId: string;
    columns: Column[];
    place: SheetPlace;
    options: RunOptions;
    keepAs: string | null;
  },
  clock: Clock,
): Promise<{ id: string }> {
  authorise(actor, 'roster.run');
  const { columns } = input;
  if (!columns.some(({ field }) => field === 'staff number' || field === 'email'))
    throw new Refusal({ code: 'NO_KEY_COLUMN' });
  return inTenant(actor, async (tx) => {
    const pattern = await card(tx, input.cardId);
    if (!pattern) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'roster.run', pattern.record_id);
    const at = new Date(clock.now());
    const own = { organisation_id: actor.organisationId, updated_at: at };
    const name = cleanLine(input.keepAs ?? '').text.slice(0, 80);
    if (name) {
      const known = await mappings(tx);
      const there = known.some((each) => each.name.toLowerCase() === name.toLowerCase());
      if (!there && known.length >= LIMITS.rosterMappings)
        throw new Refusal({ code: 'MAPPINGS_FULL', limit: LIMITS.rosterMappings });
      // Headings without a field say so as well: next time nobody is asked for them.
      await keepMapping(tx, { id: randomUUID(), ...own, name, columns });
    }
    const id = randomUUID();
    await insertRun(tx, {
      ...{ id, ...own, user_id: actor.userId, name: cleanLine(input.name).text.slice(0, 80), card_id: input.cardId },
      ...{ columns, place: input.place, options: input.options, state: 'mapping' as const, created_at: at },
    });
    await recordAudit(tx, actor, 'roster.begun', { kind: 'roster', id }, clock);
    return { id };
  });
}

const AT_ONCE = 500;

/**
 * Takes in the rows of a run's sheet, of each only the columns that have a field, and asks for their review. Errors: NOT_ALLOWED, NOT_FOUND,
 * RUN_BUSY, RUN_ENDED, FILE_TOO_LARGE, TOO_MANY_JOBS, those of a sheet; SHEET_EMPTY where nothing stands in the columns.
 */
export async function giveSheet(
  actor: Actor,
  id: string,
  bytes: Buffer,
  clock: Clock,
): Promise<{ job: string; rows: number }> {
  authorise(actor, 'roster.run');
  refuseTooLarge(bytes);
  const { columns, place } = await inTenant(actor, (tx) => openIdle(tx, id));
  const asked = { bytes, ...place, fields: columns.map(({ field }) => field) };
  const rows = await compute('sheet rows', asked, { of: actor.organisationId });
  return inTenant(actor, async (tx) => {
    await openIdle(tx, id);
    await clearRows(tx, id);
    const of = { organisation_id: actor.organisationId, run_id: id };
    for (let at = 0; at < rows.length; at += AT_ONCE) await insertRows(tx, of, rows.slice(at, at + AT_ONCE));
    const job = await askForJob(tx, actor, { task: 'review-roster', input: { roster: id }, total: rows.length }, clock);
    await updateRun(tx, id, { state: 'reading', job_id: job, updated_at: new Date(clock.now()) });
    return { job, rows: rows.length };
  });
}

/** The mappings that were kept, the latest first. Error: NOT_ALLOWED. */
export async function listMappings(actor: Actor): Promise<{ id: string; name: string; columns: Column[] }[]> {
  authorise(actor, 'roster.run');
  const kept = await inTenant(actor, mappings);
  return kept.map(({ id, name, columns }) => ({ id, name, columns }));
}

/** Removes a kept mapping. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function removeMapping(actor: Actor, id: string): Promise<void> {
  authorise(actor, 'roster.run');
  const gone = await inTenant(actor, (tx) => deleteMapping(tx, id));
  if (gone === 0) throw new Refusal({ code: 'NOT_FOUND' });
}
