import { squeeze } from '@/core/card';

/** Parameters of a contact's properties that say how a value is meant and nothing of it (RFC 6350, 5; RFC 2426, 3). */
const MACHINERY = /;(?:TYPE|VALUE|ENCODING|CHARSET|PREF|ALTID|LANGUAGE)=(?:"[^"]*"|[^;:"])*/gi;
/** Lines of a contact that are the same in every one. */
const FRAME = /^(?:BEGIN|END|VERSION|PRODID):/i;
/** How a name is spoken is written apart by its parts (common practice, no published source). */
const SPOKEN = /^X-PHONETIC-(?:FIRST|MIDDLE|LAST)-NAME:(.*)$/i;

/** A line break within a value is `\n`, any other letter after a backslash is itself (RFC 6350, 3.4). */
const unescaped = (value: string): string =>
  value.replace(/\\(.)/g, (_, letter: string) => (/n/i.test(letter) ? '\n' : letter));

/** What a contact in a code or tag says, without the words of its form: a person may be called Card, and work is a use of a number. */
function saidIn(text: string): string[] {
  if (/^MECARD:/i.test(text)) return [text.slice('MECARD:'.length).replace(/(^|;)[A-Z-]+:/gi, '$1')];
  if (!/^BEGIN:VCARD/i.test(text)) return [text];
  const lines = text.replace(/\r?\n[ \t]/g, '').split(/\r?\n/);
  const spoken = lines.flatMap((line) => SPOKEN.exec(line)?.[1] ?? []);
  return [
    ...lines.filter((line) => !FRAME.test(line)).map((line) => line.replace(/^[\w.-]+/, '').replace(MACHINERY, '')),
    spoken.join(' '),
  ].map(unescaped);
}

/**
 * The values of the withheld that a text gives away, in whatever spelling: a link, words, or a contact as codes and tags carry it (vCard, MeCard). A value
 * that stands in pieces of a contact which belong together is found as well.
 */
export function leakedIn(text: string, withheld: readonly string[]): string[] {
  const said = saidIn(text).map(squeeze).join('\n');
  return withheld.filter((value) => said.includes(squeeze(value)));
}
