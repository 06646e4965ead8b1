import { createHash, randomBytes } from 'node:crypto';
import { Secret, TOTP } from 'otpauth';
import { Refusal } from '@/core/errors';
import { drawSymbol, symbolFor } from '@/core/qr';
import {
  deleteSessionsOf,
  keepRecoveryCodes,
  memberForUpdate,
  organisation,
  recoveryCodesLeft,
  setSecondFactor,
  takeRecoveryCode,
  updateMember,
  type UserRow,
} from '@/server/db/accounts/accounts';
import { inTenant, type Tx } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import type { Actor } from './actor';
import { recordAudit } from './audit';
import { authorise } from './authorise';
import { refuseStale } from './fresh';
import { limitRate } from './limit-rate';

/** RFC 6238: six digits, thirty seconds, HMAC-SHA-1, as every authenticator app has them; a key of 160 bits (RFC 4226 4, R6). */
const PERIOD = 30;
const KEY_BYTES = 20;
/** One step either way for clocks that differ (RFC 6238 5.2). */
const WINDOW = 1;
const RECOVERY_CODES = 10;

const totpOf = (secret: string, label: string) =>
  new TOTP({
    issuer: 'Heathland',
    label,
    algorithm: 'SHA1',
    digits: 6,
    period: PERIOD,
    secret: Secret.fromBase32(secret),
  });

/** The step whose code this is, or null; a step that was used before is used up. */
function stepOf(row: Pick<UserRow, 'totp_secret' | 'totp_step'>, code: string, now: number): number | null {
  if (!row.totp_secret || !/^\d{6}$/.test(code)) return null;
  const delta = totpOf(row.totp_secret, '').validate({ token: code, window: WINDOW, timestamp: now });
  const step = Math.floor(now / 1_000 / PERIOD) + (delta ?? 0);
  return delta === null || step <= Number(row.totp_step) ? null : step;
}

const plain = (code: string): string => code.toUpperCase().replace(/[^0-9A-Z]/g, '');
const hashOf = (userId: string, code: string) =>
  createHash('sha256')
    .update(`${userId} ${plain(code)}`)
    .digest();

/** Refuses a sign-in whose second factor is missing or wrong. Errors: SECOND_FACTOR_NEEDED, SECOND_FACTOR_WRONG, TOO_MANY_REQUESTS. */
export async function refuseWithoutCode(
  user: Pick<UserRow, 'id' | 'organisation_id' | 'totp_since'>,
  code: string,
  clock: Clock,
): Promise<void> {
  if (user.totp_since === null) return;
  if (!code.trim()) throw new Refusal({ code: 'SECOND_FACTOR_NEEDED' });
  await limitRate('second factor', user.id, clock);
  const right = await inTenant(user.organisation_id, async (tx) => {
    const row = await memberForUpdate(tx, user.organisation_id, user.id);
    const step = row && stepOf(row, code.replace(/\s/g, ''), clock.now());
    if (step) {
      await updateMember(tx, user.organisation_id, user.id, { totp_step: step });
      return true;
    }
    if (!(await takeRecoveryCode(tx, user.id, hashOf(user.id, code)))) return false;
    const who = { organisationId: user.organisation_id, userId: user.id };
    await recordAudit(tx, who, 'recovery-code.used', { kind: 'member', id: user.id }, clock);
    return true;
  });
  if (!right) throw new Refusal({ code: 'SECOND_FACTOR_WRONG' });
}

export type SecondFactor = { on: boolean; recoveryCodes: number; required: boolean };

/** Whether a member has a second factor, how many recovery codes are left, and whether the organisation wants one. */
export async function readSecondFactor(actor: Actor): Promise<SecondFactor> {
  authorise(actor, 'second-factor.manage');
  return inTenant(actor, async (tx) => {
    const own = await organisation(tx, actor.organisationId);
    return {
      on: actor.secondFactor,
      recoveryCodes: await recoveryCodesLeft(tx, actor.userId),
      required: own?.second_factor ?? false,
    };
  });
}

/** Begins a second factor: a key for the authenticator app, as text and as a code to scan. It counts once its first code was right. Error: SECOND_FACTOR_ON. */
export async function beginSecondFactor(
  actor: Actor,
  clock: Clock,
): Promise<{ secret: string; uri: string; svg: string }> {
  authorise(actor, 'second-factor.manage');
  refuseStale(actor, clock);
  const secret = new Secret({ buffer: new Uint8Array(randomBytes(KEY_BYTES)).buffer }).base32;
  const email = await inTenant(actor, async (tx) => {
    const row = await memberForUpdate(tx, actor.organisationId, actor.userId);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    if (row.totp_since) throw new Refusal({ code: 'SECOND_FACTOR_ON' });
    await updateMember(tx, actor.organisationId, actor.userId, { totp_secret: secret, totp_step: 0 });
    return row.email;
  });
  const uri = totpOf(secret, email).toString();
  return { secret, uri, svg: drawSymbol(symbolFor(uri), { title: 'Second factor' }) };
}

/** Ends the set-up with the app's first code; answers with recovery codes, shown this once. Errors: SECOND_FACTOR_WRONG, SECOND_FACTOR_ON. */
export async function confirmSecondFactor(actor: Actor, code: string, clock: Clock): Promise<{ codes: string[] }> {
  authorise(actor, 'second-factor.manage');
  await limitRate('second factor', actor.userId, clock);
  const codes = Array.from({ length: RECOVERY_CODES }, () => randomBytes(5).toString('hex').toUpperCase());
  await inTenant(actor, async (tx) => {
    const row = await memberForUpdate(tx, actor.organisationId, actor.userId);
    if (row?.totp_since) throw new Refusal({ code: 'SECOND_FACTOR_ON' });
    const step = row && stepOf(row, code.replace(/\s/g, ''), clock.now());
    if (!step) throw new Refusal({ code: 'SECOND_FACTOR_WRONG' });
    await updateMember(tx, actor.organisationId, actor.userId, { totp_since: new Date(clock.now()), totp_step: step });
    await keepRecoveryCodes(
      tx,
      codes.map((each) => ({
        organisation_id: actor.organisationId,
        user_id: actor.userId,
        code_hash: hashOf(actor.userId, each),
      })),
      actor.userId,
    );
    await recordAudit(tx, actor, 'second-factor.on', { kind: 'member', id: actor.userId }, clock);
  });
  return { codes: codes.map((each) => `${each.slice(0, 5)}-${each.slice(5)}`) };
}

const OFF = { totp_secret: null, totp_since: null, totp_step: 0 };

async function turnOff(tx: Tx, organisationId: string, userId: string): Promise<void> {
  await updateMember(tx, organisationId, userId, OFF);
  await keepRecoveryCodes(tx, [], userId);
}

/** Turns a member's own second factor off. Error: PASSWORD_STALE. */
export async function dropSecondFactor(actor: Actor, clock: Clock): Promise<void> {
  authorise(actor, 'second-factor.manage');
  refuseStale(actor, clock);
  await inTenant(actor, async (tx) => {
    await turnOff(tx, actor.organisationId, actor.userId);
    await recordAudit(tx, actor, 'second-factor.off', { kind: 'member', id: actor.userId }, clock);
  });
}

/** Takes a member's second factor away, who has lost phone and recovery codes; their sessions end. Errors: NOT_ALLOWED, NOT_FOUND, PASSWORD_STALE. */
export async function resetSecondFactor(actor: Actor, id: string, clock: Clock): Promise<void> {
  authorise(actor, 'member.manage');
  refuseStale(actor, clock);
  await inTenant(actor, async (tx) => {
    if (!(await memberForUpdate(tx, actor.organisationId, id))) throw new Refusal({ code: 'NOT_FOUND' });
    await turnOff(tx, actor.organisationId, id);
    await deleteSessionsOf(tx, id, null);
    await recordAudit(tx, actor, 'second-factor.reset', { kind: 'member', id }, clock);
  });
}

/** Says whether everybody of the organisation needs a second factor; whoever has none sets one up next. Errors: NOT_ALLOWED, PASSWORD_STALE. */
export async function requireSecondFactor(actor: Actor, required: boolean, clock: Clock): Promise<void> {
  authorise(actor, 'second-factor.require');
  refuseStale(actor, clock);
  await inTenant(actor, async (tx) => {
    await setSecondFactor(tx, actor.organisationId, required);
    const subject = { kind: 'organisation' as const, id: actor.organisationId };
    await recordAudit(tx, actor, 'second-factor.required', subject, clock, { required: required ? 1 : 0 });
  });
}
