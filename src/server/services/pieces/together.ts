import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import { Refusal, wordingOf } from '@/core/errors';
import { dayOf } from '@/core/response';
import type { Finding } from '@/core/findings';
import { LIMITS } from '@/core/limits';
import { PieceSchema, planSheet, trimOf, type Piece } from '@/core/print';
import { cleanLine } from '@/core/record';
import type { MadeFile } from '@/core/shown';
import type { Clock } from '@/server/clock';
import { compute } from '@/server/compute';
import type { BoundPart } from '@/server/compute/tasks/print/bind';
import { firstPublished } from '@/server/db/cards/cards';
import { recordsBy } from '@/server/db/cards/records';
import { handOutsOfCard, type HandOutRow } from '@/server/db/hand-outs/hand-outs';
import { insertRun, setPiece } from '@/server/db/hand-outs/print';
import { keepMadeFile, madeFile, madeParts, type LeftOutRow } from '@/server/db/jobs/made-files';
import { inTenant } from '@/server/db/pool';
import { files } from '@/server/files';
import { log } from '@/server/log';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { textOf } from '@/server/services/hand-outs/drawing';
import { askForJob, readJob } from '@/server/services/jobs/jobs';
import type { RunningJob } from '@/server/services/jobs/run-job';
import { loadPublished, type PublishedCard } from '@/server/services/publishing/load-published';
import { notePrinted } from '@/server/services/wild/note-copy';
import { addPiece } from './parts';
import { pieceOf, printed } from './print';

/** People whose cards are printed together: each one's first published card. `copies` of each are noted as printed; none where it is 0. */
export type TogetherInput = { records: string[]; piece: Piece; placement: string; copies: number };

/** Pieces that are bound and read at a time; of sheets so many as fill whole ones. */
const AT_ONCE = 24;
/** Pieces that are on their way at once: while some are looked up, others are printed. */
const SIDE_BY_SIDE = 4;

/** Asks for the cards of several people in one file for print. Errors: NOT_ALLOWED, NOT_FOUND, NOTHING_CHOSEN, TOO_MANY_CHOSEN, INPUT, TOO_MANY_JOBS. */
export async function askTogether(actor: Actor, input: TogetherInput, clock: Clock): Promise<{ job: string }> {
  authorise(actor, 'hand-out.make');
  const { records, piece, copies } = input;
  const placement = cleanLine(input.placement).text.slice(0, LIMITS.placement);
  if (!placement) throw new Refusal({ code: 'INPUT', field: 'placement' });
  if (records.length === 0) throw new Refusal({ code: 'NOTHING_CHOSEN' });
  if (records.length > LIMITS.printedTogether)
    throw new Refusal({ code: 'TOO_MANY_CHOSEN', limit: LIMITS.printedTogether });
  for (const id of records) authoriseFor(actor, 'hand-out.make', id);
  const wanted = { records: records.join(','), piece: JSON.stringify(piece), placement, copies };
  const job = await inTenant(actor, async (tx) => {
    if ((await recordsBy(tx, records)).size < new Set(records).size) throw new Refusal({ code: 'NOT_FOUND' });
    return askForJob(tx, actor, { task: 'print-cards', input: wanted, total: records.length }, clock);
  });
  return { job };
}

type Row = { record: string; cardId: string | null };

/** The first published card of each, by name. */
async function chosen(actor: Actor, records: string[]): Promise<Row[]> {
  return inTenant(actor, async (tx) => {
    const people = await recordsBy(tx, records);
    const cards = await firstPublished(tx, [...people.keys()]);
    const names = (id: string) => people.get(id)!.written_name;
    return [...people.keys()]
      .sort((a, b) => names(a).localeCompare(names(b)))
      .map((record) => ({ record, cardId: cards.get(record) ?? null }));
  });
}

/** The printed piece of a card at a placement, made up as wanted: the one that there is, so that a second try makes no second one. */
export async function pieceAt(
  actor: Actor,
  cardId: string,
  placement: string,
  piece: Piece,
  clock: Clock,
): Promise<HandOutRow> {
  const find = () =>
    inTenant(actor, async (tx) =>
      (await handOutsOfCard(tx, cardId)).find(
        (row) =>
          row.channel === 'print' &&
          row.placement === placement &&
          row.state === 'out' &&
          pieceOf(row).ground === 'look',
      ),
    );
  const known = await find();
  if (!known) await addPiece(actor, { cardId, placement, channel: 'print' }, clock);
  const row = known ?? (await find())!;
  await inTenant(actor, (tx) => setPiece(tx, row.id, piece));
  return { ...row, print: piece };
}

/** The id of a run that a job notes: the same at every try. */
function runIdOf(jobId: string, handOut: string): string {
  const hex = createHash('sha256').update(`${jobId} ${handOut}`).digest('hex');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-8${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}

/** What is printed of a card, without its pictures: of many they are too much to hold. */
type Printed = { handOut: string; of: Pick<PublishedCard, 'cardId' | 'revision' | 'composition'> };
type Made = ({ part: BoundPart } & Printed) | { finding: Finding | null };

/** One person's piece, proven; or what keeps it from print. */
async function madeFor({ actor, clock }: RunningJob, cardId: string, piece: Piece, placement: string): Promise<Made> {
  const row = await pieceAt(actor, cardId, placement, piece, clock);
  const served = await loadPublished({ code: row.code }, clock);
  if (served?.state !== 'published') return { finding: null };
  // On a sheet the marks are the sheet's.
  const alone = piece.sheet ? { ...piece, sheet: null, marks: false } : piece;
  const answer = await printed({ row, served, piece: alone }).catch((error: unknown) => {
    // One that takes too long does not keep the others.
    if (error instanceof Refusal && error.problem.code === 'TOO_LABORIOUS') return error.problem;
    throw error;
  });
  if ('code' in answer) return { finding: { code: 'WORDED', sentence: wordingOf(answer) } };
  const { pdf, proof, says } = answer;
  const failing = proof.checks.find(({ passed }) => !passed);
  if (failing) return { finding: failing.finding };
  const { revision, composition } = served;
  return { part: { pdf, says, link: textOf(row) }, handOut: row.id, of: { cardId, revision, composition } };
}

/** Prints the cards of several people into one file: each proven by itself, then bound and read again. What fails its proof is left out, and told. */
export async function printTogether(running: RunningJob): Promise<Record<string, number>> {
  const { actor, input, progress } = running;
  const piece = PieceSchema.parse(JSON.parse(String(input.piece)));
  const placement = String(input.placement);
  const rows = await chosen(actor, String(input.records).split(','));
  const trim = trimOf(piece);
  const perSheet = piece.sheet ? planSheet(piece.sheet, trim).places.length : 1;
  if (perSheet === 0) throw new Refusal({ code: 'INPUT', field: 'sheet' });
  const full = perSheet * Math.max(1, Math.floor(AT_ONCE / perSheet));
  const leftOut: LeftOutRow[] = [];
  const made: (Printed & { record: string })[] = [];
  const bind = async (parts: BoundPart[]): Promise<Buffer> => {
    const order = { parts, sheet: piece.sheet, ...trim, title: placement };
    // Beside the pieces, not in turn with them: only this job's own process does both.
    const { pdf, found, of } = await compute('bound pieces', order, { of: `${actor.organisationId} binds` });
    if (found < of) throw new Error(`${of - found} of ${of} sides are not where they were bound`);
    return pdf;
  };
  const bound: Promise<Buffer>[] = [];
  let waiting: BoundPart[] = [];
  const ahead: Promise<Made>[] = [];
  const begin = (row: Row | undefined) => {
    if (!row) return;
    const begun = row.cardId ? madeFor(running, row.cardId, piece, placement) : Promise.resolve({ finding: null });
    // Whoever takes it hears of its failure; until then it is nobody's.
    begun.catch(() => {});
    ahead.push(begun);
  };
  rows.slice(0, SIDE_BY_SIDE).forEach(begin);
  for (const [at, { record }] of rows.entries()) {
    if (at % SIDE_BY_SIDE === 0) await progress(at, rows.length);
    const result = await ahead.shift()!;
    begin(rows[at + SIDE_BY_SIDE]);
    if (!('part' in result)) {
      leftOut.push({ record, finding: result.finding });
      log.info({ job: running.id, finding: result.finding?.code ?? null }, 'a piece was left out');
      continue;
    }
    made.push({ record, handOut: result.handOut, of: result.of });
    waiting.push(result.part);
    if (waiting.length === full || at === rows.length - 1) {
      bound.push(bind(waiting));
      bound.at(-1)!.catch(() => {});
      waiting = [];
    }
  }
  if (waiting.length > 0) bound.push(bind(waiting));
  await progress(rows.length, rows.length);
  await keep(running, { bound: await Promise.all(bound), made, leftOut, placement, piece });
  return { printed: made.length, leftOut: leftOut.length };
}

type ToKeep = {
  bound: Buffer[];
  made: (Printed & { record: string })[];
  leftOut: LeftOutRow[];
  placement: string;
  piece: Piece;
};

async function keep(
  { id, actor, input, clock }: RunningJob,
  { bound, made, leftOut, placement, piece }: ToKeep,
): Promise<void> {
  const [first, ...more] = bound;
  const joined =
    first && more.length > 0
      ? (await compute('joined files', { files: bound, title: placement }, { of: actor.organisationId })).pdf
      : first;
  const file = joined ? await files().put(joined) : null;
  const organisation_id = actor.organisationId;
  const created_at = new Date(clock.now());
  await inTenant(organisation_id, async (tx) => {
    const row = { job_id: id, organisation_id, file, name: `${placement}.pdf`, bytes: joined?.length ?? 0 };
    const records = made.map(({ record }) => record);
    await keepMadeFile(tx, { ...row, left_out: leftOut, records, created_at });
    const copies = Number(input.copies);
    if (copies === 0) return;
    const printed_on = dayOf(clock.now(), actor.organisation.timeZone);
    for (const { handOut, of } of made) {
      const { revision, cardId } = of;
      const runId = runIdOf(id, handOut);
      await insertRun(tx, {
        ...{ id: runId, organisation_id, hand_out_id: handOut, revision },
        ...{ printed_on, copies, place: '', created_at },
      });
      const copy = { organisationId: organisation_id, cardId, handOutId: handOut, revision, runId, at: created_at };
      await notePrinted(tx, copy, piece, of.composition, actor.organisation.country);
    }
  });
}

/** The file that a job has made, as its page tells of it; null where it makes none. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function readMadeFile(actor: Actor, jobId: string): Promise<MadeFile | null> {
  await readJob(actor, jobId);
  return inTenant(actor, async (tx) => {
    const row = await madeFile(tx, jobId);
    if (!row) return null;
    const people = await recordsBy(
      tx,
      row.left_out.map(({ record }) => record),
    );
    const leftOut = row.left_out.map(({ record, finding }) => ({
      name: people.get(record)?.written_name ?? null,
      finding,
    }));
    const has = row.file !== null || Number(row.bytes) > 0;
    return { name: row.name, bytes: has ? Number(row.bytes) : null, leftOut };
  });
}

/** Its bytes, part by part as they are taken. Errors: NOT_ALLOWED, NOT_FOUND, STORE_UNAVAILABLE. */
export async function madeFileStream(
  actor: Actor,
  jobId: string,
): Promise<{ stream: ReadableStream<Uint8Array>; bytes: number; fileName: string }> {
  await readJob(actor, jobId);
  const { row, parts } = await inTenant(actor, async (tx) => {
    const row = await madeFile(tx, jobId);
    return { row, parts: row?.file ? [row.file] : (await madeParts(tx, jobId)).map(({ file }) => file) };
  });
  const read = async (hash: string | undefined) => {
    const bytes = hash === undefined ? null : await files().get(hash);
    if (!bytes) throw new Refusal({ code: 'NOT_FOUND' });
    return bytes;
  };
  if (!row) throw new Refusal({ code: 'NOT_FOUND' });
  // An answer that has begun can no longer refuse: the first part is read before.
  const first = await read(parts[0]);
  async function* all() {
    yield first;
    for (const hash of parts.slice(1)) yield await read(hash);
  }
  const stream = Readable.toWeb(Readable.from(all())) as ReadableStream<Uint8Array>;
  return { stream, bytes: Number(row.bytes), fileName: row.name };
}
