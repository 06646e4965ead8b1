/** Crockford's base 32: digits and upper-case letters without I, L, O and U (Crockford, "Base 32", 2002-2019). */
export const CODE_ALPHABET = '0123456789ABCDEFGHJKMNPQRSTVWXYZ';
export const CODE_LENGTH = 8;

/** A hand-out code from 8 random bytes: 40 bits, five of each byte, so that every code is as likely as any other. */
export function codeFrom(random: Uint8Array): string {
  if (random.length < CODE_LENGTH) throw new RangeError(`a code needs ${CODE_LENGTH} random bytes`);
  return Array.from(random.subarray(0, CODE_LENGTH), (byte) => CODE_ALPHABET[byte & 31]).join('');
}

/**
 * Reads a code as a person may type it: case never matters, I and L are read as 1, O as 0, hyphens are skipped
 * (Crockford's decoding rule). Null when it is no code.
 */
export function readCode(raw: string): string | null {
  const code = raw.toUpperCase().replace(/-/g, '').replace(/[IL]/g, '1').replace(/O/g, '0');
  return code.length === CODE_LENGTH && [...code].every((letter) => CODE_ALPHABET.includes(letter)) ? code : null;
}

const PREVIEW_LENGTH = 16;

/** The secret of a preview address from 16 random bytes: 80 bits, too many to be guessed. */
export const previewFrom = (random: Uint8Array): string =>
  codeFrom(random.subarray(0, CODE_LENGTH)) + codeFrom(random.subarray(CODE_LENGTH));

const LASTING_LETTERS = 3 * CODE_LENGTH;

/** The secret of a lasting link from 24 bytes or more: 120 bits, which stand in mails for years. */
export const lastingFrom = (bytes: Uint8Array): string =>
  [0, 1, 2].map((part) => codeFrom(bytes.subarray(part * CODE_LENGTH, (part + 1) * CODE_LENGTH))).join('');

/** Reads a lasting link's secret as {@link readCode} reads a code. Null when it is none. */
export function readLasting(raw: string): string | null {
  if (raw.length !== LASTING_LETTERS) return null;
  const parts = [0, 1, 2].map((part) => readCode(raw.slice(part * CODE_LENGTH, (part + 1) * CODE_LENGTH)));
  return parts.every((part) => part !== null) ? parts.join('') : null;
}

/** Reads a preview's secret as {@link readCode} reads a code. Null when it is none. */
export function readPreview(raw: string): string | null {
  const halves = [raw.slice(0, CODE_LENGTH), raw.slice(CODE_LENGTH)].map(readCode);
  return raw.length === PREVIEW_LENGTH && halves.every((half) => half !== null) ? halves.join('') : null;
}
