import { createHash, randomUUID } from 'node:crypto';
import { bad, orRefuse, Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { RecordSchema, type PersonRecord } from '@/core/record';
import { readContactFile, type ImportedContact } from '@/core/vcard';
import { inTenant } from '@/server/db/pool';
import { record as recordRow } from '@/server/db/records';
import type { Clock } from '@/server/clock';
import type { Actor } from './actor';
import { authorise } from './authorise';
import { storeWithFirstCard } from './create-record';
import { askForJob } from './jobs';
import { files } from '@/server/files';
import { keepPicture, preparePhoto } from './pictures';

export type Imported = { recordId: string; cardId: string; kept: number };

/**
 * The contacts of a file. Errors: FILE_TOO_LARGE, NOT_A_CONTACT_FILE, CONTACT_FILE_CUT_OFF, CONTACT_FILE_EMPTY,
 * TOO_MANY_CONTACTS.
 */
export function readContacts(actor: Actor, bytes: Buffer): ImportedContact[] {
  const limitBytes = LIMITS.contactFileBytes;
  if (bytes.length > limitBytes) throw new Refusal({ code: 'FILE_TOO_LARGE', limitBytes });
  const contacts = orRefuse(readContactFile(decode(bytes), actor.organisation.country));
  const limit = LIMITS.contactsAtOnce;
  if (contacts.length > limit) throw new Refusal({ code: 'TOO_MANY_CONTACTS', limit, found: contacts.length });
  return contacts;
}

/**
 * Takes in a contact file. One contact becomes a record and a first card at once; several become a job, since each has a
 * photo to decode. Errors: NOT_ALLOWED, TOO_MANY_JOBS, and those of {@link readContacts}.
 */
export async function takeContactFile(
  actor: Actor,
  bytes: Buffer,
  clock: Clock,
): Promise<{ imported: Imported } | { job: string }> {
  authorise(actor, 'record.create');
  const contacts = readContacts(actor, bytes);
  if (contacts.length === 1) return { imported: await importContact(actor, contacts[0]!, clock) };
  const file = await files().put(bytes);
  const wanted = { task: 'import-contacts' as const, input: { file }, total: contacts.length };
  return { job: await inTenant(actor.organisationId, (tx) => askForJob(tx, actor, wanted, clock)) };
}

/**
 * Makes a record and a first card from a contact. A photo that is no picture is left out and said in the record, and
 * everything else comes in. `of` names the contact within a job: a second try finds what the first one made.
 */
export async function importContact(
  actor: Actor,
  contact: ImportedContact,
  clock: Clock,
  of?: { job: string; at: number },
): Promise<Imported> {
  authorise(actor, 'record.create');
  const ids = of
    ? { recordId: idWithin(of.job, `record ${of.at}`), cardId: idWithin(of.job, `card ${of.at}`) }
    : { recordId: randomUUID(), cardId: randomUUID() };
  const known = of && (await inTenant(actor.organisationId, (tx) => recordRow(tx, ids.recordId)));
  if (known) return { ...ids, kept: known.body.kept.length };
  const { record, photo } = await withPhoto(contact);
  return inTenant(actor.organisationId, async (tx) => {
    if (photo) await keepPicture(tx, actor.organisationId, photo);
    await storeWithFirstCard(tx, actor, record, 'record.imported', clock, ids);
    return { ...ids, kept: record.kept.length };
  });
}

/** An id that is always the same for the same part of a job (laid out as a UUID of version 8, RFC 9562 5.8). */
function idWithin(job: string, part: string): string {
  const hex = createHash('sha256').update(`${job} ${part}`).digest('hex');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-8${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}

/** The text of a file: UTF-16 where its byte-order mark says so, UTF-8 where it is valid, else Latin-1. */
function decode(bytes: Buffer): string {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes);
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

type Prepared = { record: PersonRecord; photo: Awaited<ReturnType<typeof preparePhoto>> | null };

async function withPhoto({ record, photo }: ImportedContact): Promise<Prepared> {
  const parsed = RecordSchema.safeParse(record);
  if (!parsed.success)
    return orRefuse(bad({ code: 'INPUT', field: String(parsed.error.issues[0]?.path[0] ?? 'record') }));
  const body = parsed.data;
  if (!photo) return { record: body, photo: null };
  try {
    const made = await preparePhoto(Buffer.from(photo.base64, 'base64'));
    const id = `d${body.details.length + 1}`;
    return {
      record: {
        ...body,
        details: [...body.details, { kind: 'photo' as const, id, label: '', preferred: false, picture: made.hash }],
      },
      photo: made,
    };
  } catch (error) {
    const unreadable = error instanceof Refusal && /^PICTURE_/.test(error.problem.code);
    if (!unreadable) throw error;
    return {
      record: { ...body, kept: [...body.kept, { property: photo.property, why: 'unreadable-photo' as const }] },
      photo: null,
    };
  }
}
