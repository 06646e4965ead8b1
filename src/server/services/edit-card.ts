import { randomUUID } from 'node:crypto';
import { compose, firstLines, reconcile, type CardState, type Composition, type Line } from '@/core/card';
import { Refusal } from '@/core/errors';
import type { Language } from '@/core/messages';
import { RecordSchema, writtenName, type PersonRecord } from '@/core/record';
import { card, handOutsOfCard, insertCard, latestRevision, updateCard } from '@/server/db/cards';
import { currentAddress } from '@/server/db/directory';
import { inTenant } from '@/server/db/pool';
import { picture, record } from '@/server/db/records';
import { settings } from '@/server/env';
import type { Clock } from '@/server/clock';
import type { Actor } from './actor';
import { writeDown } from './audit';
import { authorise, authoriseFor } from './authorise';
import { files } from '@/server/files';

export type OpenedCard = {
  id: string;
  audience: string;
  isPrivate: boolean;
  state: CardState;
  version: number;
  lines: Line[];
  language: Language | null;
  recordId: string;
  record: PersonRecord;
  person: string;
  address: string | null;
  publicUrl: string;
  revision: { number: number; publishedAt: string; composition: Composition } | null;
  handOuts: { id: string; code: string; placement: string }[];
  /** The photo as the contact file carries it, base64, so that the specimen is the very file. */
  photo: string | null;
};

/** A card with all that its table shows. Lines are held against today's record. Error: NOT_FOUND. */
export async function openCard(actor: Actor, id: string): Promise<OpenedCard> {
  authorise(actor, 'card.read');
  return inTenant(actor.organisationId, async (tx) => {
    const row = await card(tx, id);
    const person = row && (await record(tx, row.record_id));
    if (!row || !person) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'card.read', row.record_id);
    const body = RecordSchema.parse(person.body);
    const revision = await latestRevision(tx, id);
    const photo = body.details.find((detail) => detail.kind === 'photo');
    const pictureRow = photo?.kind === 'photo' ? await picture(tx, photo.picture) : undefined;
    const bytes = pictureRow ? await files().get(pictureRow.file_hash) : null;
    return {
      id,
      audience: row.audience,
      isPrivate: row.is_private,
      state: row.state,
      version: row.version,
      lines: reconcile(row.lines, body),
      language: row.language,
      recordId: row.record_id,
      record: body,
      person: writtenName(body.name),
      address: (await currentAddress(tx, id)) ?? null,
      publicUrl: settings().PUBLIC_URL,
      revision: revision
        ? {
            number: revision.number,
            publishedAt: revision.published_at.toISOString(),
            composition: revision.composition,
          }
        : null,
      handOuts: (await handOutsOfCard(tx, id)).map(({ id: handOutId, code, placement }) => ({
        id: handOutId,
        code,
        placement,
      })),
      photo: bytes?.toString('base64') ?? null,
    };
  });
}

/**
 * Saves a card's lines over the version that the editor saw. The record stays as it is.
 * Errors: NOT_FOUND, CARD_CHANGED with today's version, and those of a wording that cannot be read.
 */
export async function saveCard(
  actor: Actor,
  id: string,
  input: { baseVersion: number; lines: Line[]; audience: string; language?: Language | null },
  clock: Clock,
): Promise<{ version: number }> {
  authorise(actor, 'card.write');
  return inTenant(actor.organisationId, async (tx) => {
    const row = await card(tx, id);
    const person = row && (await record(tx, row.record_id));
    if (!row || !person) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'card.write', row.record_id);
    const lines = reconcile(input.lines, person.body);
    const composed = compose(person.body, lines, actor.organisation.country);
    if (!composed.ok) throw new Refusal(composed.problem);
    const written = await updateCard(tx, id, input.baseVersion, {
      lines,
      audience: input.audience,
      language: input.language === undefined ? row.language : input.language,
      updated_at: new Date(clock.now()),
    });
    if (!written) throw new Refusal({ code: 'CARD_CHANGED', version: row.version });
    const version = input.baseVersion + 1;
    await writeDown(tx, actor, 'card.changed', { kind: 'card', id }, clock, { version });
    return { version };
  });
}

/** A further card of a person for an audience, safely ticked; a private audience also gets private details. Error: NOT_FOUND. */
export async function createCard(
  actor: Actor,
  input: { recordId: string; audience: string; isPrivate: boolean },
  clock: Clock,
): Promise<{ cardId: string }> {
  authorise(actor, 'card.create');
  return inTenant(actor.organisationId, async (tx) => {
    const person = await record(tx, input.recordId);
    if (!person) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'card.create', input.recordId);
    const cardId = randomUUID();
    await insertCard(tx, {
      id: cardId,
      organisation_id: actor.organisationId,
      record_id: input.recordId,
      audience: input.audience,
      is_private: input.isPrivate,
      lines: firstLines(person.body, { isPrivate: input.isPrivate }),
      updated_at: new Date(clock.now()),
    });
    await writeDown(tx, actor, 'card.made', { kind: 'card', id: cardId }, clock);
    return { cardId };
  });
}
