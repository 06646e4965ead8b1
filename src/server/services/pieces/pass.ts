import { timingSafeEqual } from 'node:crypto';
import { readCode } from '@/core/address';
import { leavingOf, privacyOf, saidIn } from '@/core/card';
import { Refusal } from '@/core/errors';
import { writeLetter } from '@/core/letter';
import { passFields } from '@/core/pass';
import { codeSvg, drawCode, PLAIN_STYLE, symbolInStyle } from '@/core/qr';
import { writtenName } from '@/core/record';
import type { ShownPass } from '@/core/shown';
import { LETTERS, PASS_WORDS } from '@/core/words';
import type { Clock } from '@/server/clock';
import { compute } from '@/server/compute';
import { organisation } from '@/server/db/accounts/accounts';
import { byCode } from '@/server/db/cards/directory';
import { handOut, type HandOutRow } from '@/server/db/hand-outs/hand-outs';
import { inTenant, outsideTenants } from '@/server/db/pool';
import { settings } from '@/server/env';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { linkOf, plainName } from '@/server/services/hand-outs/own';
import { mailFor, mailIsOpen, postMail } from '@/server/services/mail/post-mail';
import { loadPublished, type PublishedCard } from '@/server/services/publishing/load-published';
import { withheldOf } from '@/server/services/publishing/prove-card';
import { noteTaken, takenOf } from '@/server/services/wild/note-copy';
import { ownPublished, piecePictures } from './parts';
import { passSigner, type PassSigner } from './signer';

export const PASS_TYPE = 'application/vnd.apple.pkpass';
/** Where phones ask for passes; below the studio's own address, whatever host the cards have. */
const service = (): string => `${settings().BASE_URL}/api/pass`;
/** A mail with a pass is of use for so long, in milliseconds. */
const HOLDS_MS = 86_400_000;

type Kept = HandOutRow & { pass_token: string };
/** The row of a pass, which has its token. */
export const keptPass = (row: HandOutRow): Kept => ({ ...row, pass_token: row.pass_token! });

const addressOf = ({ code, pass_token }: Kept): string => `${service()}/${code}/${pass_token}.pkpass`;

/** Makes the pass of a card and proves it, away from who else is waiting. Errors: PASS_UNSIGNED, STORE_UNAVAILABLE, TOO_BUSY, TOO_LABORIOUS. */
export async function madePass(row: Kept, served: PublishedCard, clock: Clock, signs?: PassSigner) {
  const { signer, passType, team } = signs ?? (await passSigner(clock));
  const { composition, organisationId, state } = served;
  const language = composition.language ?? 'en';
  const { photo, logo, logoOnBand } = await piecePictures(served, 'pass');
  const owner = await inTenant(organisationId, (tx) => organisation(tx, organisationId));
  return compute(
    'pass',
    {
      ...{ composition: saidIn(composition, language), language, signer, passType, team, now: clock.now() },
      ...{ serial: row.code, link: linkOf(row), service: service(), token: row.pass_token },
      organisation: owner?.name ?? '',
      description: PASS_WORDS.cardOf(writtenName(composition.name)),
      voided: state !== 'published',
      pictures: { photo, logo: logoOnBand ?? logo },
      withheld: await withheldOf(served, 'pass'),
    },
    { of: organisationId },
  );
}

const WANTED = { channel: 'pass', action: 'hand-out.read' } as const;

/** Everything that the screen of a pass shows, with the proof of its file. Errors: NOT_ALLOWED, NOT_FOUND, CARD_NOT_PUBLISHED, those of {@link madePass}. */
export async function openPass(actor: Actor, id: string, clock: Clock): Promise<ShownPass> {
  const { row, served, unpublished, body } = await ownPublished(actor, id, WANTED, clock);
  const signs = await passSigner(clock);
  const { bytes, proof } = await madePass(keptPass(row), served, clock, signs);
  const { composition } = served;
  const address = addressOf(keptPass(row));
  return {
    ...{ id, cardId: row.card_id, placement: row.placement, link: linkOf(row), unpublished, proof, address },
    fields: passFields(composition, composition.language ?? 'en'),
    colours: { band: composition.look.palette.band, onBand: composition.look.palette.onBand },
    code: codeSvg(drawCode(symbolInStyle(address, PLAIN_STYLE), PLAIN_STYLE), { title: '' }),
    leaving: leavingOf(composition, null, ['pass'], (detail) => privacyOf(detail, body)),
    ...{ standIn: signs.standIn, bytes: bytes.length, mail: mailFor(actor) },
  };
}

const refuseFailing = ({ proof }: Awaited<ReturnType<typeof madePass>>) => {
  const failing = proof.checks.find(({ passed }) => !passed);
  if (failing) throw new Refusal({ code: 'PROOF_FAILED', channel: 'pass', finding: failing.finding });
};

export type PassFile = { bytes: Buffer; fileName: string; type: string };
const fileOf = ({ composition }: PublishedCard, bytes: Buffer): PassFile => ({
  ...{ bytes, type: PASS_TYPE },
  fileName: `${plainName(writtenName(composition.name)) || 'card'}.pkpass`,
});

/** The file of a pass, if its proof passes. Errors: PROOF_FAILED and those of {@link openPass}. */
export async function passFile(actor: Actor, id: string, clock: Clock): Promise<PassFile> {
  const { row, served } = await ownPublished(actor, id, WANTED, clock);
  const made = await madePass(keptPass(row), served, clock);
  refuseFailing(made);
  await inTenant(actor, (tx) =>
    noteTaken(tx, takenOf(row, served, clock), 'pass', served.composition, actor.organisation.country),
  );
  return fileOf(served, made.bytes);
}

/** Sends a member the pass by mail, to their own confirmed address. Errors: MAIL_CLOSED, EMAIL_UNCONFIRMED, TOO_MANY_REQUESTS, and those of {@link passFile}. */
export async function sendPass(actor: Actor, id: string, clock: Clock): Promise<void> {
  const { row } = await ownPublished(actor, id, { ...WANTED, action: 'hand-out.make' }, clock);
  if (!mailIsOpen()) throw new Refusal({ code: 'MAIL_CLOSED' });
  // Anybody may sign up with anybody's address.
  if (!actor.emailConfirmed) throw new Refusal({ code: 'EMAIL_UNCONFIRMED' });
  await limitRate('test mail', actor.userId, clock);
  const { bytes, fileName: name, type } = await passFile(actor, id, clock);
  await inTenant(actor, async (tx) => {
    const who = { organisationId: actor.organisationId, userId: actor.userId };
    const letter = writeLetter(LETTERS.pass(actor.name, addressOf(keptPass(row))));
    const what = { kind: 'pass', urgent: true, holdsMs: HOLDS_MS, letter, attachments: [{ name, type, bytes }] };
    await postMail(tx, { ...who, ...what, to: { name: actor.name, address: actor.email } }, clock);
    await recordAudit(tx, actor, 'hand-out.sent', { kind: 'hand-out', id }, clock);
  });
}

const same = (a: string, b: string): boolean => {
  const [given, held] = [Buffer.from(a), Buffer.from(b)];
  return given.length === held.length && timingSafeEqual(given, held);
};

/** The pass that a phone keeps, by its code and its token; null where they do not fit. What its card is not out for any more is void. Errors: those of {@link madePass}, TOO_MANY_REQUESTS. */
async function passBy(
  given: string,
  token: string,
  clock: Clock,
): Promise<{ row: Kept; served: PublishedCard } | null> {
  const code = readCode(given);
  if (!code) return null;
  const entry = await outsideTenants((db) => byCode(db, code));
  if (!entry?.hand_out_id) return null;
  const { hand_out_id: id } = entry;
  const row = await inTenant(entry.organisation_id, (tx) => handOut(tx, id));
  if (!row?.pass_token || !same(token, row.pass_token)) return null;
  const served = await loadPublished({ code }, clock).catch((error: unknown) => {
    if (error instanceof Refusal && error.problem.code === 'CARD_DELETED') return null;
    throw error;
  });
  return served && { row: keptPass(row), served };
}

/** The file of a pass for whoever has its address. Errors: NOT_FOUND, PROOF_FAILED, TOO_MANY_REQUESTS, those of {@link madePass}. */
export async function passAt(
  code: string,
  token: string,
  clock: Clock,
): Promise<PassFile & { version: string; changed: string }> {
  const found = await passBy(code, token, clock);
  if (!found) throw new Refusal({ code: 'NOT_FOUND' });
  const { row, served } = found;
  await limitRate('pass', row.id, clock);
  const made = await madePass(row, served, clock);
  refuseFailing(made);
  await inTenant(served.organisationId, async (tx) => {
    const country = (await organisation(tx, served.organisationId))?.country ?? '';
    await noteTaken(tx, takenOf(row, served, clock), 'pass', served.composition, country);
  });
  return { ...fileOf(served, made.bytes), version: String(served.version), changed: served.publishedAt };
}

/** Whether a phone that asks in a pass's name has its token. */
export const isPassToken = async (code: string, token: string, clock: Clock): Promise<boolean> =>
  (await passBy(code, token, clock)) !== null;
