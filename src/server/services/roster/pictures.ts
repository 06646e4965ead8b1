import { Refusal } from '@/core/errors';
import { cleanLine, topCrop, type Crop } from '@/core/record';
import type { Clock } from '@/server/clock';
import { picture } from '@/server/db/media/pictures';
import { inTenant } from '@/server/db/pool';
import { keepRosterPicture, rosterPicture, rosterPictures } from '@/server/db/roster/pictures';
import { sheetCells, writeJudged } from '@/server/db/roster/rows';
import { run, updateRun } from '@/server/db/roster/runs';
import { files } from '@/server/files';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';
import { keepPicture, prepareCrop, prepareRosterPhoto } from '@/server/services/media/pictures';
import { openIdle } from './idle';
import { judgeRows, ownedKinds, readCells } from './known';
import { withPictures } from './review-rows';
import { keysTwice } from '@/core/roster';

const nameOf = (typed: string): string => {
  const name = cleanLine(typed.split(/[/\\]/).pop() ?? '').text.slice(0, 200);
  if (!name) throw new Refusal({ code: 'INPUT', field: 'name' });
  return name;
};

/**
 * Takes in one picture of a run under its file name, cut to the square at its top. One that cannot be read is noted with the reason, and
 * the others go on. Errors: NOT_ALLOWED, NOT_FOUND, RUN_BUSY, RUN_ENDED, QUOTA_FULL, TOO_BUSY.
 */
export async function givePicture(
  actor: Actor,
  runId: string,
  fileName: string,
  bytes: Buffer,
): Promise<{ problem: Refusal['problem'] | null }> {
  authorise(actor, 'roster.run');
  const name = nameOf(fileName);
  const { organisationId } = actor;
  const own = { organisation_id: organisationId, run_id: runId, file_name: name };
  await inTenant(organisationId, (tx) => openIdle(tx, runId));
  try {
    const { whole, square } = await prepareRosterPhoto(bytes, organisationId);
    await inTenant(organisationId, async (tx) => {
      await keepPicture(tx, organisationId, whole, actor.userId);
      await keepPicture(tx, organisationId, square, actor.userId);
      const crop = topCrop(whole.hash, whole.width, whole.height);
      const kept = { picture: whole.hash, square: square.hash, crop, width: whole.width, height: whole.height };
      await keepRosterPicture(tx, { ...own, ...kept, problem: null });
    });
    return { problem: null };
  } catch (error) {
    const unreadable =
      error instanceof Refusal && /^(PICTURE_|DRAWING_|FILE_TOO_LARGE|TOO_LABORIOUS)/.test(error.problem.code);
    if (!unreadable) throw error;
    const none = { picture: null, square: null, crop: null, width: null, height: null };
    await inTenant(organisationId, (tx) => keepRosterPicture(tx, { ...own, ...none, problem: error.problem }));
    return { problem: error.problem };
  }
}

/** Cuts another square from a picture of a run. Errors: NOT_ALLOWED, NOT_FOUND, RUN_BUSY, RUN_ENDED. */
export async function cropPicture(
  actor: Actor,
  runId: string,
  fileName: string,
  crop: Omit<Crop, 'from'>,
): Promise<{ picture: string }> {
  authorise(actor, 'roster.run');
  const { organisationId } = actor;
  const kept = await inTenant(organisationId, async (tx) => {
    await openIdle(tx, runId);
    const row = await rosterPicture(tx, runId, fileName);
    return row?.picture ? { row, whole: await picture(tx, row.picture) } : null;
  });
  const largest = kept?.whole ? await files().get(kept.whole.hash) : null;
  if (!kept || !largest) throw new Refusal({ code: 'NOT_FOUND' });
  const cut = { ...crop, from: kept.row.picture! };
  const square = await prepareCrop(largest, cut, organisationId);
  await inTenant(organisationId, async (tx) => {
    await keepPicture(tx, organisationId, square, actor.userId);
    await keepRosterPicture(tx, { ...kept.row, square: square.hash, crop: cut });
  });
  return { picture: square.hash };
}

/**
 * Gives each row of a run the picture that is its own by the files' names, once all are there, and judges anew those that it changes.
 * Errors: NOT_ALLOWED, NOT_FOUND, RUN_BUSY, RUN_ENDED.
 */
export async function matchRunPictures(
  actor: Actor,
  runId: string,
  clock: Clock,
): Promise<{ matched: number; files: number }> {
  authorise(actor, 'roster.run');
  return inTenant(actor, async (tx) => {
    const { place, state } = await openIdle(tx, runId);
    const pictures = await rosterPictures(tx, runId);
    if (state !== 'ready') return { matched: 0, files: pictures.length };
    const cells = (await sheetCells(tx, runId)).filter((row) => Object.keys(row.cells).length > 0);
    const order = place.order ?? 'day first';
    const read = cells.map((row) => ({ ...row, read: readCells(row.cells, actor, order) }));
    const usable = pictures.filter((each) => each.picture !== null);
    const matched = withPictures(
      read,
      usable.map(({ file_name }) => file_name),
    );
    const changed = matched.filter((row, at) => row.picture !== read[at]!.picture);
    const byFile = new Map(usable.map((each) => [each.file_name, each]));
    const of = { twice: keysTwice(matched), owned: await ownedKinds(tx), pictures: byFile };
    for (let at = 0; at < changed.length; at += AT_ONCE)
      await writeJudged(tx, runId, await judgeRows(tx, changed.slice(at, at + AT_ONCE), of));
    await updateRun(tx, runId, { updated_at: new Date(clock.now()) });
    return { matched: matched.filter((row) => row.picture !== null).length, files: pictures.length };
  });
}

const AT_ONCE = 200;

/** The pictures of a run that nobody's row has, and those that could not be read. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function picturesOfRun(actor: Actor, runId: string) {
  authorise(actor, 'roster.run');
  return inTenant(actor, async (tx) => {
    if (!(await run(tx, runId))) throw new Refusal({ code: 'NOT_FOUND' });
    const taken = new Set((await sheetCells(tx, runId)).flatMap((row) => row.picture ?? []));
    const rows = await rosterPictures(tx, runId);
    return rows.map(({ file_name, square, crop, width, height, problem }) => ({
      ...{ name: file_name, square, crop, width, height, problem, matched: taken.has(file_name) },
    }));
  });
}
