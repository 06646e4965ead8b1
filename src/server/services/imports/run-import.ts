import { differencesOf, firstChoice, RecordSchema, withChosen, writtenName, type PersonRecord } from '@/core/record';
import { isTransient, Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import type { ImportedContact, Warning } from '@/core/vcard';
import { computeEach } from '@/server/compute';
import {
  clearEntries,
  entriesFrom,
  forgetBodies,
  importOf,
  insertEntries,
  markMade,
  markUndone,
  updateImport,
  type EntryRow,
  type NewEntry,
} from '@/server/db/jobs/imports';
import { inTenant, type Tx } from '@/server/db/pool';
import { deleteUntouched, record, recordsBy } from '@/server/db/cards/records';
import { files } from '@/server/files';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { FILE_SALT_BYTES } from './begin-import';
import { refuseOwned } from '@/server/services/house/owners';
import { importContact, withPhoto } from './import-contact';
import { knowPeople } from './know-people';
import { keepPicture } from '@/server/services/media/pictures';
import { showOnDrafts } from '@/server/services/records/show-added';
import { writeRecord } from '@/server/services/records/write-record';
import { Cancelled, type RunningJob } from '@/server/services/jobs/run-job';

const AT_ONCE = 100;

/** The contacts of a stored file one after the other, read in the compute pool. Errors: TOO_BUSY, TOO_LABORIOUS. */
async function* contactsOf(bytes: Buffer, { organisationId, organisation }: Actor, outside: Warning[]) {
  const file = { bytes, country: organisation.country };
  for await (const handful of computeEach('contacts', file, { of: organisationId })) {
    outside.push(...handful.outside);
    yield* handful.found;
  }
}

/** Whether a job ends with this error: stopped or refused. Anything else is tried again. */
const endsJob = (error: unknown): boolean =>
  error instanceof Cancelled || (error instanceof Refusal && !isTransient(error.problem));

async function fileOf({ actor, input }: RunningJob) {
  const id = String(input.import);
  const row = await inTenant(actor, (tx) => importOf(tx, id));
  const bytes = row?.file ? await files().get(row.file) : null;
  if (!row || !bytes) throw new Refusal({ code: 'NOT_FOUND' });
  return { id, row, bytes: bytes.subarray(FILE_SALT_BYTES) };
}

/** A contact as it was read, at its place in the file. */
type Waiting = { at: number; line: number; body: PersonRecord; contact: ImportedContact; warnings: Warning[] };

/** By what a contact that stands in a file twice is told. */
const within = ({ uid, name, details }: PersonRecord): string => JSON.stringify([uid ?? '', name, details]);

/** Contacts held against everybody who is known and against those before them in the file. */
async function judged(
  tx: Tx,
  of: Pick<NewEntry, 'organisation_id' | 'import_id'>,
  read: Waiting[],
  before: ReadonlySet<string>,
): Promise<NewEntry[]> {
  const ids = await knowPeople(
    tx,
    read.map(({ body }) => body),
  );
  const known = await recordsBy(
    tx,
    ids.flatMap((id) => id ?? []),
  );
  const twice = new Set(before);
  return read.map(({ at, line, body, contact, warnings }, index) => {
    const row = known.get(ids[index] ?? '');
    const hasPhoto = contact.photo !== null;
    const differences = row ? differencesOf(row.body, body, hasPhoto) : [];
    const verdict = twice.has(within(body)) ? 'twice' : !row ? 'new' : differences.length > 0 ? 'differs' : 'same';
    twice.add(within(body));
    return {
      ...of,
      at,
      line,
      name: writtenName(body.name),
      verdict,
      record_id: row?.id ?? null,
      body,
      has_photo: hasPhoto,
      warnings,
      too_large: contact.tooLarge,
      take: verdict === 'new' || verdict === 'differs',
      chosen: firstChoice(differences),
    };
  });
}

/**
 * Reads the file of an import into its entries, each held against everybody who is known. A second try starts over.
 * Errors: NOT_FOUND, NOT_A_CONTACT_FILE, TOO_MANY_CONTACTS.
 */
export async function readImport(running: RunningJob): Promise<Record<string, number>> {
  const { actor, clock, progress } = running;
  authorise(actor, 'record.create');
  const { id, bytes } = await fileOf(running);
  const { organisationId } = actor;
  const twice = new Set<string>();
  const outside: Warning[] = [];
  let waiting: Waiting[] = [];
  let count = 0;
  let place = -1;
  await inTenant(organisationId, (tx) => clearEntries(tx, id));
  const store = async (share: number) => {
    const read = waiting;
    waiting = [];
    if (read.length > 0)
      await inTenant(organisationId, async (tx) =>
        insertEntries(tx, await judged(tx, { organisation_id: organisationId, import_id: id }, read, twice)),
      );
    for (const { body } of read) twice.add(within(body));
    await progress(count, Math.round(count / share));
  };
  try {
    for await (const { contact, line, warnings, share } of contactsOf(bytes, actor, outside)) {
      // The place in the file, by which taking in finds the contact again.
      place += 1;
      if (count >= LIMITS.contactsAtOnce)
        throw new Refusal({ code: 'TOO_MANY_CONTACTS', limit: LIMITS.contactsAtOnce, found: count + 1 });
      const body = RecordSchema.safeParse(contact.record);
      // What the schema of records refuses has no place; the reader keeps within it, and this says so if it ever does not.
      if (!body.success) outside.push({ code: 'LINE_UNREADABLE', line });
      else {
        waiting.push({ at: place, line, body: body.data, contact, warnings });
        count += 1;
      }
      if (waiting.length >= AT_ONCE) await store(share);
    }
    await store(1);
    if (count === 0) throw new Refusal({ code: 'NOT_A_CONTACT_FILE' });
  } catch (error) {
    const updated_at = new Date(clock.now());
    if (endsJob(error)) await inTenant(organisationId, (tx) => updateImport(tx, id, { state: 'failed', updated_at }));
    throw error;
  }
  const updated_at = new Date(clock.now());
  await inTenant(organisationId, (tx) =>
    updateImport(tx, id, { state: 'ready', warnings: outside.slice(0, AT_ONCE), updated_at }),
  );
  return { found: count };
}

/** Takes the chosen contacts of an import in. A second try goes on where the first one stopped; a stopped one keeps what came in. */
export async function takeContacts(running: RunningJob): Promise<Record<string, number>> {
  const { actor, clock, progress } = running;
  authorise(actor, 'record.create');
  const before = await inTenant(actor, (tx) => importOf(tx, String(running.input.import)));
  // An earlier try had finished all but saying so.
  if (before?.state === 'taken' && !before.file) return {};
  const { id, row, bytes } = await fileOf(running);
  const { organisationId } = actor;
  const totals = { made: 0, changed: 0, kept: 0, skipped: 0 };
  const entries = new Map<number, EntryRow>();
  await inTenant(organisationId, async (tx) => {
    const rows = await entriesFrom(tx, id, { verdict: null, from: 0, most: LIMITS.contactsAtOnce });
    for (const each of rows) if (each.take) entries.set(each.at, each);
  });
  const finish = () =>
    inTenant(organisationId, async (tx) => {
      await updateImport(tx, id, { state: 'taken', updated_at: new Date(clock.now()) });
      await recordAudit(tx, actor, 'import.taken', { kind: 'import', id }, clock, totals);
    });
  let at = -1;
  let done = 0;
  try {
    for await (const { contact } of contactsOf(bytes, actor, [])) {
      at += 1;
      const entry = entries.get(at);
      if (!entry) continue;
      if (done % 10 === 0) await progress(done, entries.size);
      done += 1;
      if (entry.made_record) {
        totals[entry.before ? 'changed' : 'made'] += 1;
        continue;
      }
      const known = entry.record_id && entry.verdict !== 'twice';
      const kept = known ? await changeRecord(running, entry, contact) : await makeRecord(running, entry, contact);
      if (kept === null) totals.skipped += 1;
      else {
        totals[known ? 'changed' : 'made'] += 1;
        totals.kept += kept;
      }
    }
  } catch (error) {
    // A stopped one is undone as a whole as well, and can no longer be chosen from.
    if (endsJob(error)) await finish();
    throw error;
  }
  await finish();
  await progress(entries.size, entries.size);
  // A whole address book is nothing to keep longer than it is needed.
  if (row.file) await files().forget(row.file);
  await inTenant(organisationId, (tx) => updateImport(tx, id, { file: null, updated_at: new Date(clock.now()) }));
  return totals;
}

async function makeRecord({ actor, input, clock }: RunningJob, entry: EntryRow, contact: ImportedContact) {
  const id = String(input.import);
  const made = await importContact(actor, contact, clock, { import: id, at: entry.at });
  await inTenant(actor, (tx) =>
    markMade(tx, id, entry.at, {
      made_record: made.recordId,
      made_card: made.cardId,
      made_version: 1,
      before: null,
    }),
  );
  return made.kept;
}

/** Puts the chosen lines of a contact into the record of the same person; null where that is gone or would grow too long. */
async function changeRecord(
  { actor, input, clock }: RunningJob,
  entry: EntryRow,
  contact: ImportedContact,
): Promise<number | null> {
  const id = String(input.import);
  const chosen = new Set(entry.chosen);
  const withPicture = chosen.has('photo')
    ? await withPhoto(contact, actor.organisationId)
    : { record: contact.record, photo: null };
  return inTenant(actor, async (tx) => {
    const row = await record(tx, entry.record_id!);
    if (!row) return null;
    let body: PersonRecord = withChosen(row.body, entry.body, chosen);
    if (withPicture.photo && !body.details.some(({ kind }) => kind === 'photo')) {
      await keepPicture(tx, actor.organisationId, withPicture.photo, actor.userId);
      const photo = { kind: 'photo' as const, id: `p${entry.at}`, label: '', preferred: false };
      body = { ...body, details: [...body.details, { ...photo, picture: withPicture.photo.hash }] };
    }
    const parsed = RecordSchema.safeParse(body);
    if (!parsed.success) return null;
    await refuseOwned(tx, actor, { record_id: row.id }, { record: row.body }, { record: parsed.data });
    await showOnDrafts(tx, row.id, row.body, parsed.data, clock);
    await writeRecord(tx, row.id, row.version, parsed.data, clock);
    await recordAudit(tx, actor, 'record.changed', { kind: 'record', id: row.id }, clock, { version: row.version + 1 });
    await markMade(tx, id, entry.at, {
      made_record: row.id,
      made_card: null,
      made_version: row.version + 1,
      before: row.body,
    });
    return chosen.has('kept') ? entry.body.kept.length : 0;
  });
}

/**
 * Undoes an import: records that it made go, changed ones are as before. What somebody has changed or published since
 * stays, and is counted.
 */
export async function undoContacts({ actor, input, clock, progress }: RunningJob): Promise<Record<string, number>> {
  authorise(actor, 'record.create');
  const id = String(input.import);
  const { organisationId } = actor;
  const rows = await inTenant(organisationId, (tx) =>
    entriesFrom(tx, id, { verdict: null, from: 0, most: LIMITS.contactsAtOnce }),
  );
  const made = rows.filter(({ made_record }) => made_record !== null);
  let undone = 0;
  for (const [done, each] of made.entries()) {
    if (done % 10 === 0) await progress(done, made.length);
    const gone = each.undone || (await undoEntry({ actor, clock }, id, each));
    if (gone) undone += 1;
  }
  await inTenant(organisationId, async (tx) => {
    await forgetBodies(tx, id);
    await updateImport(tx, id, { state: 'undone', updated_at: new Date(clock.now()) });
    await recordAudit(tx, actor, 'import.undone', { kind: 'import', id }, clock, {
      undone,
      left: made.length - undone,
    });
  });
  await progress(made.length, made.length);
  return { undone, left: made.length - undone };
}

async function undoEntry({ actor, clock }: Pick<RunningJob, 'actor' | 'clock'>, importId: string, each: EntryRow) {
  return inTenant(actor, async (tx) => {
    const recordId = each.made_record!;
    const version = each.made_version!;
    const subject = { kind: 'record' as const, id: recordId };
    const gone = each.before
      ? await writeRecord(tx, recordId, version, each.before, clock)
      : await deleteUntouched(tx, recordId, version);
    if (!gone) return false;
    await markUndone(tx, importId, each.at);
    await recordAudit(tx, actor, each.before ? 'record.changed' : 'record.removed', subject, clock);
    return true;
  });
}
