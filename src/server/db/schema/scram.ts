import { createHash, createHmac, pbkdf2Sync, randomBytes } from 'node:crypto';

/** As PostgreSQL's own (scram_iterations). */
const ITERATIONS = 4_096;

/**
 * What PostgreSQL keeps of a password (SCRAM-SHA-256, RFC 5802 3 and RFC 7677; PostgreSQL 15, 21.5 and 53.8 pg_authid): given instead of
 * it, the password itself stands in no statement and in no log. ASCII alone, which SASLprep leaves as it is.
 */
export function scramVerifier(password: string, salt = randomBytes(16)): string {
  const salted = pbkdf2Sync(password, salt, ITERATIONS, 32, 'sha256');
  const key = (of: string) => createHmac('sha256', salted).update(of).digest();
  const stored = createHash('sha256').update(key('Client Key')).digest('base64');
  return `SCRAM-SHA-256$${ITERATIONS}:${salt.toString('base64')}$${stored}:${key('Server Key').toString('base64')}`;
}
