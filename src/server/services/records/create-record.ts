import { randomUUID } from 'node:crypto';
import { FIRST_AUDIENCES, firstLines } from '@/core/card';
import { orRefuse, Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import {
  readDetail,
  readName,
  cleanLine,
  writtenName,
  type Detail,
  type NameKind,
  type PersonRecord,
  type TypedKind,
  type Use,
} from '@/core/record';
import { lineTypeOf } from '@/core/record/line-type';
import { insertCard } from '@/server/db/cards/cards';
import { inTenant, type Tx } from '@/server/db/pool';
import { insertRecord } from '@/server/db/cards/records';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { companyDefaults } from '@/server/services/organisation/company-defaults';
import { firstLook } from '@/server/services/house/house-style';
import { authorise } from '@/server/services/accounts/authorise';
import { createCard } from '@/server/services/cards/create-card';
import { mayShow } from '@/server/services/media/pictures';

/** The audience of a first card, until its owner gives it a name of their own. */
export const FIRST_AUDIENCE = FIRST_AUDIENCES[0]!.name;

/** Stores a record and a first card composed from it, under ids of its own unless they are given; answers with both. */
export async function storeWithFirstCard(
  tx: Tx,
  actor: Actor,
  body: PersonRecord,
  act: 'record.made' | 'record.imported',
  clock: Clock,
  ids: { recordId: string; cardId: string } = { recordId: randomUUID(), cardId: randomUUID() },
): Promise<{ recordId: string; cardId: string }> {
  const { recordId, cardId } = ids;
  const own = { organisation_id: actor.organisationId, updated_at: new Date(clock.now()) };
  await insertRecord(tx, { id: recordId, ...own, written_name: writtenName(body.name), body });
  const lines = firstLines(body, { isPrivate: false }, lineTypeOf);
  const look = await firstLook(tx);
  const { languages } = await companyDefaults(tx, actor.organisationId);
  await insertCard(tx, {
    id: cardId,
    ...own,
    record_id: recordId,
    audience: FIRST_AUDIENCE,
    is_private: false,
    lines,
    look,
    language: languages[0] ?? null,
  });
  await recordAudit(tx, actor, act, { kind: 'record', id: recordId }, clock, { details: body.details.length });
  await recordAudit(tx, actor, 'card.made', { kind: 'card', id: cardId }, clock);
  return { recordId, cardId };
}

/** What a short form holds; `photo` names a picture that was given before, `more` came with a pasted signature. */
export type TypedRecord = {
  name: string;
  kind?: NameKind;
  phone: string;
  email: string;
  title?: string;
  firm?: string;
  forWork?: { phone: boolean; email: boolean };
  photo?: string;
  more?: Detail[];
  both?: boolean;
};

/**
 * Makes a record from what was typed, and a first card, or with `both` the usual two: work and private. Only the name is needed.
 * Errors: NOT_ALLOWED, NAME_MISSING, PHONE_UNREADABLE, EMAIL_UNREADABLE, TEXT_TOO_LONG.
 */
export async function createRecord(
  actor: Actor,
  typed: TypedRecord,
  clock: Clock,
): Promise<{ recordId: string; cardId: string }> {
  authorise(actor, 'record.create');
  const name = cleanLine(typed.name).text;
  if (!name) throw new Refusal({ code: 'NAME_MISSING' });
  if (name.length > LIMITS.name) throw new Refusal({ code: 'TEXT_TOO_LONG', limit: LIMITS.name });
  const details: Detail[] = [];
  const add = (kind: TypedKind, text: string, uses: Use[] = []) => {
    const id = `d${details.length + 1}`;
    if (text.trim()) details.push(orRefuse(readDetail(kind, text, { id, country: actor.organisation.country, uses })));
  };
  add('title', typed.title ?? '');
  add('organisation', typed.firm ?? '');
  add('phone', typed.phone, typed.forWork?.phone ? ['work'] : []);
  add('email', typed.email, typed.forWork?.email ? ['work'] : []);
  for (const each of typed.more ?? [])
    if (each.kind !== 'photo' && each.kind !== 'logo') details.push({ ...each, id: `d${details.length + 1}` });
  const body: PersonRecord = { name: readName(name, typed.kind), details, kept: [] };
  const { photo } = typed;
  const made = await inTenant(actor, async (tx) => {
    if (photo && !(await mayShow(tx, actor, photo))) throw new Refusal({ code: 'NOT_FOUND' });
    if (photo) details.push({ kind: 'photo', id: 'photo', label: '', preferred: false, picture: photo });
    return storeWithFirstCard(tx, actor, body, 'record.made', clock);
  });
  if (typed.both) {
    const { name: audience, isPrivate, without } = FIRST_AUDIENCES[1]!;
    await createCard(actor, { recordId: made.recordId, audience, isPrivate, without }, clock);
  }
  return made;
}
