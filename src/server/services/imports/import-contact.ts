import { createHash, randomUUID } from 'node:crypto';
import { err, orRefuse, Refusal } from '@/core/errors';
import { RecordSchema, type PersonRecord } from '@/core/record';
import type { ImportedContact } from '@/core/vcard';
import { inTenant } from '@/server/db/pool';
import { record as recordRow } from '@/server/db/cards/records';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';
import { storeWithFirstCard } from '@/server/services/records/create-record';
import { keepPicture, preparePhoto } from '@/server/services/media/pictures';

export type Imported = { recordId: string; cardId: string; kept: number };

/**
 * Makes a record and a first card from a contact. A photo that is no picture is left out and said in the record, and
 * everything else comes in. `of` names the contact within an import: a second try finds what the first one made.
 */
export async function importContact(
  actor: Actor,
  contact: ImportedContact,
  clock: Clock,
  of?: { import: string; at: number },
): Promise<Imported> {
  authorise(actor, 'record.create');
  const ids = of
    ? { recordId: idWithin(of.import, `record ${of.at}`), cardId: idWithin(of.import, `card ${of.at}`) }
    : { recordId: randomUUID(), cardId: randomUUID() };
  const known = of && (await inTenant(actor, (tx) => recordRow(tx, ids.recordId)));
  if (known) return { ...ids, kept: known.body.kept.length };
  const { record, photo } = await withPhoto(contact, actor.organisationId);
  return inTenant(actor, async (tx) => {
    if (photo) await keepPicture(tx, actor.organisationId, photo, actor.userId);
    await storeWithFirstCard(tx, actor, record, 'record.imported', clock, ids);
    return { ...ids, kept: record.kept.length };
  });
}

/** An id that is always the same for the same part of an import (laid out as a UUID of version 8, RFC 9562 5.8). */
export function idWithin(whole: string, part: string): string {
  const hex = createHash('sha256').update(`${whole} ${part}`).digest('hex');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-8${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}

type Prepared = { record: PersonRecord; photo: Awaited<ReturnType<typeof preparePhoto>> | null };

/** The record with its photo decoded and scaled; one that is no picture is kept as it was written, with the reason. */
export async function withPhoto(
  { record, photo }: Pick<ImportedContact, 'record' | 'photo'>,
  of: string,
): Promise<Prepared> {
  const parsed = RecordSchema.safeParse(record);
  if (!parsed.success)
    return orRefuse(err({ code: 'INPUT', field: String(parsed.error.issues[0]?.path[0] ?? 'record') }));
  const body = parsed.data;
  if (!photo) return { record: body, photo: null };
  try {
    const made = await preparePhoto(Buffer.from(photo.base64, 'base64'), of);
    const used = new Set(body.details.map((detail) => detail.id));
    let next = body.details.length + 1;
    while (used.has(`d${next}`)) next += 1;
    const id = `d${next}`;
    return {
      record: {
        ...body,
        details: [...body.details, { kind: 'photo' as const, id, label: '', preferred: false, picture: made.hash }],
      },
      photo: made,
    };
  } catch (error) {
    // A drawing too large or too laborious is none either.
    const unreadable =
      error instanceof Refusal && /^(PICTURE_|DRAWING_|FILE_TOO_LARGE|TOO_LABORIOUS)/.test(error.problem.code);
    if (!unreadable) throw error;
    return {
      record: { ...body, kept: [...body.kept, { property: photo.property, why: 'unreadable-photo' as const }] },
      photo: null,
    };
  }
}
