import type { Name, NameKind } from './record';

const EMPTY: Name = { prefix: '', given: '', additional: '', family: '', suffix: '', written: '' };

/** The name as it is written: its own written form, else its parts in western order. */
export function writtenName(name: Name): string {
  return (
    name.written ||
    [name.prefix, name.given, name.additional, name.family].filter(Boolean).join(' ') +
      (name.suffix ? `, ${name.suffix}` : '')
  );
}

/** A name as it is written begins with the family name, as in much of East Asia. */
const familyFirst = (name: Name): boolean =>
  name.family !== '' && name.family !== name.written && name.written.startsWith(name.family);

/**
 * How a name is said, as a contact file parts it: as many words for the family name as it has itself, on the side where it is written;
 * one word alone is the given name's.
 */
export function saidParts(said: string, name: Name): { given: string; family: string } {
  const words = said.split(' ').filter(Boolean);
  const count = name.family.split(' ').filter(Boolean).length;
  if (count === 0 || !name.given || words.length <= count) return { given: words.join(' '), family: '' };
  const at = familyFirst(name) ? count : words.length - count;
  const [first, last] = [words.slice(0, at).join(' '), words.slice(at).join(' ')];
  return familyFirst(name) ? { given: last, family: first } : { given: first, family: last };
}

/** Both parts as one text again, in the order of the name. */
export const saidWhole = ({ given, family }: { given: string; family: string }, name: Name): string =>
  (familyFirst(name) ? [family, given] : [given, family]).filter(Boolean).join(' ');

/** A name typed in one box, of a person or of what is none; that has no parts. */
export const readName = (typed: string, kind: NameKind | undefined): Name =>
  kind ? { ...EMPTY, written: typed.trim().replace(/\s+/g, ' '), kind } : splitName(typed);

const PREFIXES = /^(dr|prof|mr|mrs|ms|mx|miss|sir|dame|rev|ing|dipl\.-ing|mag)\.?$/i;
const SUFFIXES = /^(jr|sr|ii|iii|iv|phd|md|mba|msc|bsc|ma|ba|ceng|meng|esq|obe|mbe)\.?$/i;
/** Particles that belong to the family name, as in "Ines van der Vael" (from memory of usual western names). */
const PARTICLES = /^(van|von|de|der|den|del|della|di|da|du|la|le|ten|ter|zu|zum|zur|al|el|bin|ibn|mac|st\.?)$/i;

/**
 * Splits a name typed in one box as vCard's N wants it: known titles first, what follows a comma or is a known degree last,
 * the last word with its particles as the family name. One word alone is a given name. The written form stays as typed.
 */
export function splitName(typed: string): Name {
  const written = typed.trim().replace(/\s+/g, ' ');
  const [main = '', ...after] = written.split(',').map((part) => part.trim());
  const words = main.split(' ').filter(Boolean);
  const prefix: string[] = [];
  const suffix = after.filter(Boolean);
  while (words.length > 1 && PREFIXES.test(words[0]!)) prefix.push(words.shift()!);
  while (words.length > 2 && SUFFIXES.test(words.at(-1)!)) suffix.unshift(words.pop()!);
  if (words.length < 2)
    return { ...EMPTY, prefix: prefix.join(' '), given: words[0] ?? '', suffix: suffix.join(' '), written };
  let start = words.length - 1;
  while (start > 1 && PARTICLES.test(words[start - 1]!)) start -= 1;
  return {
    prefix: prefix.join(' '),
    given: words[0]!,
    additional: words.slice(1, start).join(' '),
    family: words.slice(start).join(' '),
    suffix: suffix.join(' '),
    written,
  };
}
