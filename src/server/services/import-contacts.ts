import { bad, orRefuse, Refusal } from '@/core/errors';
import { RecordSchema, type PersonRecord } from '@/core/record';
import { readContactFile, type ImportedContact } from '@/core/vcard';
import { inTenant } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import type { Actor } from './actor';
import { storeWithFirstCard } from './create-record';
import { keepPicture, preparePhoto } from './pictures';

/** A phone exports a photo of at most a few megabytes; base64 adds a third. */
export const CONTACT_FILE_BYTES = 12_000_000;
/** Each contact is a record to look through; whole address books come in with their own review. */
const MOST_CONTACTS = 200;

export type Imported = { recordId: string; cardId: string; kept: number };

/**
 * Makes a record and a first card from each contact of a file. A photo that is no picture is left out and said in the
 * record, and everything else comes in. Errors: NOT_A_CONTACT_FILE, CONTACT_FILE_CUT_OFF, CONTACT_FILE_EMPTY, TOO_MANY_CONTACTS.
 */
export async function importContacts(actor: Actor, bytes: Buffer, clock: Clock): Promise<Imported[]> {
  if (bytes.length > CONTACT_FILE_BYTES) throw new Refusal({ code: 'FILE_TOO_LARGE', limitBytes: CONTACT_FILE_BYTES });
  const contacts = orRefuse(readContactFile(decode(bytes), actor.organisation.country));
  if (contacts.length > MOST_CONTACTS)
    throw new Refusal({ code: 'TOO_MANY_CONTACTS', limit: MOST_CONTACTS, found: contacts.length });
  const prepared: Prepared[] = [];
  for (const contact of contacts) prepared.push(await withPhoto(contact));
  return inTenant(actor.organisationId, async (tx) => {
    const imported: Imported[] = [];
    for (const { record, photo } of prepared) {
      if (photo) await keepPicture(tx, actor.organisationId, photo);
      const made = await storeWithFirstCard(tx, actor, record, new Date(clock.now()));
      imported.push({ ...made, kept: record.kept.length });
    }
    return imported;
  });
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
    if (!(error instanceof Refusal)) throw error;
    return {
      record: { ...body, kept: [...body.kept, { property: photo.property, why: 'unreadable-photo' as const }] },
      photo: null,
    };
  }
}
