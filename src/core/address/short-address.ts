import { err, ok, type Result } from '@/core/errors';

/** Names that could be taken for the service itself, or that later addresses of the application need. */
const RESERVED = new Set(
  (
    'about abuse account admin administrator api app assets billing card cards code codes contact demo ' +
    'docs download edit error export files heathland help home hostmaster image import index info legal ' +
    'login logout mail me new null owner page people postmaster preview privacy public response robots ' +
    'root search security settings shelf sign-in sign-out sign-up signin signup status studio support ' +
    'system terms test undefined user users webmaster www'
  ).split(' '),
);

const SHORTEST = 3;
const LONGEST = 60;

/**
 * Letters of other scripts that look like a to z (Unicode UTS #39 confusables, the lower-case letters of Cyrillic, Greek
 * and Armenian; from memory). They serve to suggest what was meant; every letter outside a to z is refused anyway.
 */
const LOOKALIKES = new Map(
  (
    'аa еe оo рp сc уy хx іi јj ѕs һh ԁd ԛq ԝw кk мm тt нh вb гr ⅼl αa εe ιi κk νv οo ρp τt υu ' +
    'χx γy ոn սu օo հh ɡg ıi ßss æae øo œoe łl đd'
  )
    .split(' ')
    .map((pair) => [pair.charAt(0), pair.slice(1)]),
);

const toAscii = (text: string): string =>
  [...text.normalize('NFKD')]
    .map((letter) => LOOKALIKES.get(letter) ?? letter)
    .join('')
    .replace(/[\u0300-\u036f]/g, '')
    .replace(/[^a-z0-9-]/g, '');

/** An address suggested from a name: its letters made plain, words joined by hyphens, within the length limits. */
export function suggestAddress(words: string): string {
  const plain = words
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .map(toAscii)
    .filter(Boolean)
    .join('-')
    .slice(0, LONGEST - 5)
    .replace(/^-+|-+$/g, '');
  if (plain.length >= SHORTEST && !RESERVED.has(plain)) return plain;
  return plain && plain !== 'card' ? `card-${plain}` : 'my-card';
}

/**
 * Reads a short address as typed; case never matters.
 * Errors: ADDRESS_FOREIGN_LETTERS, ADDRESS_SHAPE, ADDRESS_LENGTH, ADDRESS_RESERVED.
 */
export function readAddress(raw: string): Result<string> {
  const name = raw.trim().toLowerCase();
  const foreign = [...new Set([...name.normalize('NFC')].filter((letter) => letter.codePointAt(0)! > 127))];
  if (foreign.length > 0) {
    return err({
      code: 'ADDRESS_FOREIGN_LETTERS',
      letters: foreign.slice(0, 5).join(''),
      suggestion: toAscii(name).slice(0, LONGEST),
    });
  }
  if (name.length < SHORTEST || name.length > LONGEST)
    return err({ code: 'ADDRESS_LENGTH', shortest: SHORTEST, longest: LONGEST });
  if (!/^[a-z0-9]+(-[a-z0-9]+)*$/.test(name)) return err({ code: 'ADDRESS_SHAPE' });
  return RESERVED.has(name) ? err({ code: 'ADDRESS_RESERVED' }) : ok(name);
}

/** Addresses with the same skeleton look the same in print: 0 for o, 1 for l, rn for m. */
export const skeletonOf = (address: string): string =>
  address.replace(/0/g, 'o').replace(/1/g, 'l').replace(/rn/g, 'm');
