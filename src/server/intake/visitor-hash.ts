import { hash, randomBytes } from 'node:crypto';
import { addDays, dayOf, startOfDay } from '@/core/response';
import { visitorSecret } from '@/server/db/response/events';
import { inTenant, outsideTenants } from '@/server/db/pool';
import { log } from '@/server/log';

type Who = { organisationId: string; timeZone: string; address: string; userAgent: string };
type Day = { starts: number; ends: number; secret: string | Promise<string> };
const days = new Map<string, Day>();

/**
 * The hash that tells a visitor of today from others: of the day's secret, the organisation, the address and the user
 * agent. The secret is destroyed after the day, so that nobody can try addresses against it. `at` in milliseconds.
 * Answers at once where the day's secret is known, so that a busy process makes no promise for each view.
 */
export function visitorHash(who: Who, at: number): string | Promise<string> {
  const secret = secretOf(who.organisationId, who.timeZone, at);
  return typeof secret === 'string' ? hashOf(secret, who) : secret.then((known) => hashOf(known, who));
}

/** Cut to 128 bits, so that nothing can be appended to what was hashed; the one-shot call costs a third of an HMAC. */
const hashOf = (secret: string, who: Who): string =>
  hash('sha256', `${secret}\n${who.organisationId}\n${who.address}\n${who.userAgent}`, 'hex').slice(0, 32);

function secretOf(organisationId: string, timeZone: string, at: number): string | Promise<string> {
  const known = days.get(organisationId);
  if (known && at >= known.starts && at < known.ends) return known.secret;
  const day = dayOf(at, timeZone);
  const secret = inTenant(organisationId, async (tx) => {
    const kept = await visitorSecret(tx, organisationId, day, randomBytes(32));
    return kept.toString('hex');
  });
  const entry: Day = { starts: startOfDay(day, timeZone), ends: startOfDay(addDays(day, 1), timeZone), secret };
  days.set(organisationId, entry);
  secret.then(
    (text) => (entry.secret = text),
    () => days.get(organisationId) === entry && days.delete(organisationId),
  );
  return secret;
}

/** Destroys the secrets of ended days, in the database and in this process. `at` in milliseconds. */
export async function destroyEndedSecrets(at: number): Promise<void> {
  for (const [organisationId, { ends }] of days) if (at >= ends) days.delete(organisationId);
  const { rows } = await outsideTenants((db) =>
    db.raw<{ rows: { organisation_id: string; code: string }[] }>('SELECT * FROM destroy_ended_visitor_secrets()'),
  );
  for (const { organisation_id: organisation, code } of rows)
    log.error({ sweep: 'visitor secrets', organisation, code }, 'a row is at fault and was passed over');
}
