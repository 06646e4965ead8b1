import { Refusal } from '@/core/errors';
import { dateOrderOf, keysTwice, matchPictures, nameOfRow, type Cell, type RowRead } from '@/core/roster';
import { inTenant, type Tx } from '@/server/db/pool';
import { insertMissing, sheetCells, writeJudged, type JudgedRow } from '@/server/db/roster/rows';
import { rosterPictures } from '@/server/db/roster/pictures';
import { run, updateRun, type RunRow } from '@/server/db/roster/runs';
import { wholeStaff } from '@/server/db/roster/staff';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';
import type { RunningJob } from '@/server/services/jobs/run-job';
import { judgeRows, ownedKinds, readCells, type RowToJudge } from './known';

const AT_ONCE = 200;
/** Whom a complete sheet no longer has comes after its last row. */
const MISSING_FROM = 1_000_000;

type ReadRow = RowToJudge & { read: RowRead };

/** The rows of a run as they are understood, and how its dates are written. */
function readAll(rows: RowToJudge[], actor: Actor): { rows: ReadRow[]; order: ReturnType<typeof dateOrderOf> } {
  const dates = rows.flatMap(({ cells }) =>
    [cells.joins, cells.leaves].filter((cell): cell is Cell => cell !== undefined),
  );
  const order = dateOrderOf(dates, actor.organisation.country);
  return { order, rows: rows.map((row) => ({ ...row, read: readCells(row.cells, actor, order) })) };
}

/** Gives rows the pictures that are theirs by the names of the files. */
export function withPictures<R extends ReadRow>(rows: R[], files: string[]): R[] {
  const matched = matchPictures(
    files,
    rows.map(({ at, read }) => ({
      at,
      picture: read.picture,
      staffNumber: read.staffNumber,
      mail: read.mail,
      name: nameOfRow(read),
    })),
  );
  return rows.map((row) => ({ ...row, picture: matched.get(row.at) ?? null }));
}

/**
 * Judges every row of a run against everybody who is known today and notes what it would do; whom a complete sheet no longer has is noted
 * after its rows. A second try starts over. Errors: NOT_ALLOWED, NOT_FOUND.
 */
export async function reviewRoster({ actor, input, clock, progress }: RunningJob): Promise<Record<string, number>> {
  authorise(actor, 'roster.run');
  const id = String(input.roster);
  const { organisationId } = actor;
  const of = await inTenant(organisationId, async (tx) => {
    const row = await run(tx, id);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    await tx('roster_rows').where({ run_id: id }).andWhere('at', '>=', MISSING_FROM).delete();
    const pictures = await rosterPictures(tx, id);
    return { row, cells: await sheetCells(tx, id), pictures, owned: await ownedKinds(tx) };
  });
  const { rows: read, order } = readAll(of.cells, actor);
  const rows = withPictures(
    read,
    of.pictures.map(({ file_name }) => file_name),
  );
  const twice = keysTwice(rows);
  const pictures = new Map(of.pictures.map((each) => [each.file_name, each]));
  const found = new Set<string>();
  for (let at = 0; at < rows.length; at += AT_ONCE) {
    await progress(at, rows.length);
    await inTenant(organisationId, async (tx) => {
      const judged = await judgeRows(tx, rows.slice(at, at + AT_ONCE), { twice, owned: of.owned, pictures });
      for (const { record_id } of judged) if (record_id) found.add(record_id);
      await writeJudged(tx, id, judged);
    });
  }
  const left = await inTenant(organisationId, async (tx) => {
    const missing = await missingFrom(tx, of.row, found, new Date(clock.now()).toISOString().slice(0, 10));
    for (let at = 0; at < missing.length; at += AT_ONCE)
      await insertMissing(tx, { organisation_id: organisationId, run_id: id }, missing.slice(at, at + AT_ONCE));
    const place = { ...of.row.place, order };
    await updateRun(tx, id, { state: 'ready', place, updated_at: new Date(clock.now()) });
    return missing.length;
  });
  await progress(rows.length, rows.length);
  return { rows: rows.length, left };
}

/** People whom a sheet that is declared complete no longer has; taken only once somebody has said so. */
async function missingFrom(
  tx: Tx,
  { options }: RunRow,
  found: ReadonlySet<string>,
  today: string,
): Promise<JudgedRow[]> {
  const { complete } = options;
  if (complete === 'no') return [];
  const staff = await wholeStaff(tx, complete === 'company' ? null : complete.team);
  return staff
    .filter(({ id, leaves_on }) => !found.has(id) && leaves_on === null)
    .map(({ id, written_name }, index) => ({
      ...{ at: MISSING_FROM + index, key: null, name: written_name, verdict: 'leaving' as const, remarks: [] },
      ...{ changes: [{ of: 'leaves' as const, was: '', is: today }], take: false, record_id: id, picture: null },
    }));
}
