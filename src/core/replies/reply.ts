import { z } from 'zod';
import { LIMITS } from '@/core/limits';
import { cleanLine, cleanText, readEmail, readPhone, splitName, type Detail, type PersonRecord } from '@/core/record';

/** What a reply form may ask for, in its order: the first three always, at most three of the others. */
export const FIELDS_OF_REPLY = ['name', 'reach', 'note', 'firm', 'title', 'other', 'answer'] as const;
export type ReplyField = (typeof FIELDS_OF_REPLY)[number];

/** A reply as it was typed, field by field. */
export type TypedReply = Record<ReplyField, string>;

const text = z.string().max(LIMITS.replyNote).default('');
/** What a recipient told of themselves, cleaned; `question` is the one that `answer` answers. */
export const ToldSchema = z.object({
  name: text,
  reach: text,
  note: text,
  firm: text,
  title: text,
  other: text,
  answer: text,
  question: text,
});
export type Told = z.infer<typeof ToldSchema>;

/** What is wrong with a field; the wording is in the recipient's language. */
export type WrongField = { why: 'missing' | 'unreadable' } | { why: 'long'; limit: number };

const LONGEST: Record<ReplyField, number> = {
  name: LIMITS.name,
  reach: LIMITS.email,
  note: LIMITS.replyNote,
  firm: LIMITS.name,
  title: LIMITS.name,
  other: LIMITS.email,
  answer: LIMITS.replyNote,
};
const LONG: ReadonlySet<ReplyField> = new Set(['note', 'answer']);

/** Of a form's fields those that are ours, as they were typed. What is not there is empty. */
export const typedOf = (get: (field: ReplyField) => string | null): TypedReply =>
  Object.fromEntries(FIELDS_OF_REPLY.map((field) => [field, get(field) ?? ''])) as TypedReply;

/** A way to reach somebody as they typed it: a mail address, or a number read by `country` (ISO 3166-1 alpha-2). Null where it is neither. */
function reachOf(typed: string, country: string): { email: string } | { number: string; extension?: string } | null {
  if (typed.includes('@')) {
    const email = readEmail(typed);
    return email.ok ? { email: email.value } : null;
  }
  const phone = readPhone(typed, country);
  return phone.ok ? phone.value : null;
}

/**
 * Reads a reply: every text on one line but the note and the answer, control characters taken out. A name and one way to reach them are needed.
 * Answers with what is told, or with what is wrong by field; nothing throws.
 */
export function readReply(
  typed: TypedReply,
  { country, question }: { country: string; question: string },
): { ok: true; told: Told; email: string | null } | { ok: false; wrong: Partial<Record<ReplyField, WrongField>> } {
  const told: Told = { name: '', reach: '', note: '', firm: '', title: '', other: '', answer: '', question };
  const wrong: Partial<Record<ReplyField, WrongField>> = {};
  for (const field of FIELDS_OF_REPLY) {
    // What is much too long is not even looked at.
    const limit = LONGEST[field];
    const raw = typed[field].slice(0, limit * 2 + 100);
    const clean = (LONG.has(field) ? cleanText(raw) : cleanLine(raw)).text.trim();
    if (clean.length > limit) wrong[field] = { why: 'long', limit };
    else told[field] = clean;
  }
  if (!told.answer) told.question = '';
  // What nobody can see or say is no name.
  if (!/[\p{L}\p{N}]/u.test(told.name) && !wrong.name) wrong.name = { why: 'missing' };
  if (!told.reach && !wrong.reach) wrong.reach = { why: 'missing' };
  const ways = (['reach', 'other'] as const).map((field) => {
    const way = told[field] ? reachOf(told[field], country) : null;
    if (told[field] && !way && !wrong[field]) wrong[field] = { why: 'unreadable' };
    return way;
  });
  if (Object.keys(wrong).length > 0) return { ok: false, wrong };
  const mail = ways.find((way) => way !== null && 'email' in way);
  return { ok: true, told, email: mail && 'email' in mail ? mail.email : null };
}

/** The details that a reply is taken apart into, as a record holds them. */
export function recordOfReply(told: Told, country: string): PersonRecord {
  const common = { label: '', preferred: false };
  const details: Detail[] = [];
  const add = (detail: Detail | null) => detail && details.push(detail);
  const way = (id: string, typed: string): Detail | null => {
    const read = typed ? reachOf(typed, country) : null;
    if (!read) return null;
    return 'email' in read
      ? { kind: 'email', id, ...common, address: read.email, uses: [] }
      : { kind: 'phone', id, ...common, ...read, uses: [] };
  };
  add(way('reach', told.reach));
  add(way('other', told.other));
  add(told.firm ? { kind: 'organisation', id: 'firm', ...common, name: told.firm, units: [] } : null);
  add(told.title ? { kind: 'title', id: 'title', ...common, text: told.title } : null);
  return { name: splitName(told.name), details, kept: [] };
}

/** The same for two replies that say the same: the text that is hashed to tell whether one is sent once more. */
export const contentOf = (told: Told): string => JSON.stringify(FIELDS_OF_REPLY.map((field) => told[field]));
