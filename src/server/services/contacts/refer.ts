import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { previewFrom } from '@/core/address';
import { composeDraft, linesOn, NO_PARTS, withheldFrom, type Composition } from '@/core/card';
import { orRefuse, Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { wordsAbove } from '@/core/letter';
import { proveContactFile } from '@/core/proof';
import { cleanLine, cleanText, readEmail, writtenName } from '@/core/record';
import type { Way } from '@/core/shown';
import { contactFileName, writeContactFile } from '@/core/vcard';
import { carriedOn } from '@/core/wild';
import { REFER } from '@/core/words';
import type { Clock } from '@/server/clock';
import { compute } from '@/server/compute';
import { endReferral, insertReferral, type ContactRow, type ReferralRow } from '@/server/db/contacts/contacts';
import { inTenant, type Tx } from '@/server/db/pool';
import { publicUrlOf } from '@/server/env';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { mailIsOpen, postMail } from '@/server/services/mail/post-mail';
import { contextOf } from './contact-file';
import { ownContact } from './contacts';

const DAY_MS = 86_400_000;

type Passed = { row: ContactRow; composition: Composition; withheld: string[]; lines: number; file: string };

/** What is passed on of a contact: the lines that are ticked and no others, as words and as a contact file that was read back. Errors: NOT_FOUND, NOTHING_TICKED, PROOF_FAILED. */
async function passedOn(actor: Actor, id: string): Promise<Passed> {
  const row = await inTenant(actor, (tx) => ownContact(tx, actor, id));
  const { country } = actor.organisation;
  const composition = orRefuse(composeDraft(row.body, { ...NO_PARTS, lines: row.lines, language: null }, country));
  const lines = linesOn(composition, 'file').length;
  if (lines === 0) throw new Refusal({ code: 'NOTHING_TICKED' });
  const withheld = withheldFrom(row.body, row.lines, 'file', country);
  const context = contextOf(row);
  const file = writeContactFile(composition, context);
  const failing = proveContactFile(file, composition, withheld, context).checks.find(({ passed }) => !passed);
  if (failing) throw new Refusal({ code: 'PROOF_FAILED', channel: 'contact file', finding: failing.finding });
  return { row, composition, withheld, lines, file };
}

/** Notes that lines were passed on, in the transaction that does it. */
async function noteReferral(
  tx: Tx,
  actor: Actor,
  { row, lines, composition: passed }: Passed,
  way: Way,
  clock: Clock,
  link: Pick<ReferralRow, 'token_hash' | 'composition' | 'ends_at'> = {
    token_hash: null,
    composition: null,
    ends_at: null,
  },
): Promise<void> {
  const at = new Date(clock.now());
  const own = { id: randomUUID(), organisation_id: actor.organisationId, contact_id: row.id };
  // A link forgets what it showed when it ends.
  const kept = way === 'link' ? [] : carriedOn(passed, 'file', actor.organisation.country);
  const carried = kept
    .filter(({ source }) => source === 'card')
    .map(({ kind, value, detail }) => ({ kind, value, detail }));
  await insertReferral(tx, { ...own, way, lines, at, carried, ...link });
  await recordAudit(tx, actor, 'contact.referred', { kind: 'contact', id: row.id }, clock, { way, lines });
}

/** The contact file of what is ticked. Errors: NOT_ALLOWED and those of {@link passedOn}. */
export async function referByFile(
  actor: Actor,
  id: string,
  clock: Clock,
): Promise<{ bytes: Buffer; fileName: string }> {
  authorise(actor, 'contact.refer');
  const passed = await passedOn(actor, id);
  await inTenant(actor, (tx) => noteReferral(tx, actor, passed, 'file', clock));
  return { bytes: Buffer.from(passed.file), fileName: contactFileName(passed.composition) };
}

export type ReferralMail = { to: string; name: string; note: string; copyTo: string | null };

/**
 * A mail with what is ticked as text and as a file; answers go to the member. Whoever is referred gets a copy where that is wanted, at an address of
 * theirs that the member knows. Errors: NOT_ALLOWED, MAIL_CLOSED, EMAIL_UNCONFIRMED, EMAIL_UNREADABLE, INPUT, TOO_MANY_REQUESTS, TOO_MUCH_MAIL, and
 * those of {@link passedOn}.
 */
export async function referByMail(actor: Actor, id: string, input: ReferralMail, clock: Clock): Promise<void> {
  authorise(actor, 'contact.refer');
  if (!mailIsOpen()) throw new Refusal({ code: 'MAIL_CLOSED' });
  if (!actor.emailConfirmed) throw new Refusal({ code: 'EMAIL_UNCONFIRMED' });
  const to = { name: cleanLine(input.name).text.slice(0, LIMITS.name), address: orRefuse(readEmail(input.to)) };
  const passed = await passedOn(actor, id);
  const { composition, withheld, row } = passed;
  const known = row.body.details.some((detail) => detail.kind === 'email' && detail.address === input.copyTo);
  if (input.copyTo !== null && !known) throw new Refusal({ code: 'INPUT', field: 'copyTo' });
  await limitRate('message', actor.userId, clock);
  const { signature, proof } = await compute(
    'signature',
    {
      ...{ composition, layout: 'below', channel: 'file' },
      parts: { picture: false, link: false, contact: true },
      context: { language: 'en', link: '', photo: null, logo: null },
      held: { withheld, link: null, pictures: 'linked', pictureBytes: 0 },
    },
    { of: actor.organisationId },
  );
  const failing = proof.checks.find(({ passed: fine }) => !fine);
  if (failing) throw new Refusal({ code: 'PROOF_FAILED', channel: 'message', finding: failing.finding });
  const words = cleanText(input.note).text.slice(0, LIMITS.text).trim();
  const name = writtenName(composition.name);
  const letter = { subject: REFER.subject(name), ...wordsAbove(words, signature) };
  const attachments = [
    { name: contactFileName(composition), type: 'text/vcard; charset=utf-8', bytes: Buffer.from(passed.file) },
  ];
  const mail = {
    ...{
      organisationId: actor.organisationId,
      userId: actor.userId,
      kind: 'referral',
      urgent: false,
      holdsMs: 4 * DAY_MS,
    },
    ...{ from: { name: actor.name }, replyTo: { name: actor.name, address: actor.email }, letter, attachments },
  };
  await inTenant(actor, async (tx) => {
    await postMail(tx, { ...mail, to }, clock);
    if (input.copyTo !== null) await postMail(tx, { ...mail, to: { name, address: input.copyTo } }, clock);
    await noteReferral(tx, actor, passed, 'mail', clock);
  });
}

/** A link that shows what is ticked now, and for some days; what is ticked later it does not show. Errors: NOT_ALLOWED, INPUT, and those of {@link passedOn}. */
export async function referByLink(
  actor: Actor,
  id: string,
  days: number,
  clock: Clock,
): Promise<{ url: string; ends: string }> {
  authorise(actor, 'contact.refer');
  if (!Number.isInteger(days) || days < 1 || days > LIMITS.referralDays)
    throw new Refusal({ code: 'INPUT', field: 'days' });
  const passed = await passedOn(actor, id);
  const secret = previewFrom(randomBytes(16));
  const ends = new Date(clock.now() + days * DAY_MS);
  const token_hash = createHash('sha256').update(secret).digest();
  await inTenant(actor, (tx) =>
    noteReferral(tx, actor, passed, 'link', clock, { token_hash, composition: passed.composition, ends_at: ends }),
  );
  return { url: `${publicUrlOf(actor.organisationId)}/p/${secret}`, ends: ends.toISOString() };
}

/** Ends a link of a referral at once. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function endLink(actor: Actor, id: string, referral: string, clock: Clock): Promise<void> {
  authorise(actor, 'contact.refer');
  await inTenant(actor, async (tx) => {
    await ownContact(tx, actor, id);
    const ended = await endReferral(tx, id, referral, new Date(clock.now()));
    if (ended === 0) throw new Refusal({ code: 'NOT_FOUND' });
    await recordAudit(tx, actor, 'contact.link-ended', { kind: 'contact', id }, clock);
  });
}
