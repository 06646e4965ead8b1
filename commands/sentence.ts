import { Refusal, wordingOf } from '../src/core/errors';
import { asSentence, CannotStart } from '../src/server/db/schema/cannot-start';
import { Stop } from './stop';

/** What Node.js says of hosts, certificates, files and disks, by its code. */
const KNOWN: Record<string, string> = {
  ENOTFOUND: 'There is no such host.',
  EAI_AGAIN: 'Its name cannot be looked up at this moment.',
  ECONNREFUSED: 'Nothing answers there.',
  ETIMEDOUT: 'Nothing answers there.',
  ERR_TLS_CERT_ALTNAME_INVALID: 'Its certificate is for another name.',
  CERT_HAS_EXPIRED: 'Its certificate has expired.',
  DEPTH_ZERO_SELF_SIGNED_CERT: 'Its certificate is nobody’s that this machine trusts.',
  SELF_SIGNED_CERT_IN_CHAIN: 'Its certificate is nobody’s that this machine trusts.',
  UNABLE_TO_VERIFY_LEAF_SIGNATURE: 'Its certificate is nobody’s that this machine trusts.',
  EACCES: 'This user may not write there.',
  ENOENT: 'There is no such file or folder.',
  EROFS: 'It cannot be written to.',
  ENOSPC: 'The disk is full.',
};

const codeOf = (error: unknown): string => String((error as { code?: unknown } | null)?.code ?? '');

/** What whoever runs Heathland can do something about, in one sentence; null for what nobody foresaw. Certificates are the database's, or of another place. */
export function foreseen(error: unknown, of: 'database' | 'elsewhere'): string | null {
  if (error instanceof Stop) return error.message;
  if (error instanceof Refusal) return wordingOf(error.problem);
  const told = of === 'database' ? asSentence(error) : error;
  return told instanceof CannotStart ? told.message : (KNOWN[codeOf(error)] ?? null);
}

/** The same of what is known, and the code alone of what is not. */
export const sentenceOf = (error: unknown, of: 'database' | 'elsewhere', otherwise: string): string =>
  foreseen(error, of) ?? `${otherwise}${codeOf(error) && ` (${codeOf(error)})`}.`;
