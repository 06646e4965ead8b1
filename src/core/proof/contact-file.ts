import type { Finding } from '@/core/findings';
import { linesOn, squeeze, type Composition } from '@/core/card';
import { fallBacksOf, type ContactFileContext } from '@/core/vcard';
import { pictureTells } from './picture-metadata';
import { proofOf, type Check, type Proof } from './proof';
import { cautionsFor } from './cautions';
import { compare, readByAnother, readByOurs } from './read-contact';

/**
 * The proof of a contact file as it is served. A reader that is not ours (ical.js; it does not read 2.1, which our own
 * reads, and the finding says so) must find every line ticked for the file, with its uses and label, and nothing else: no
 * further property, and no value of `withheld` in any spelling, in a note, a label, or what a photo tells about itself.
 */
export function proveContactFile(
  file: string,
  composition: Composition,
  withheld: string[],
  context: ContactFileContext,
): Proof {
  const read = context.version === '2.1' ? readByOurs(file) : readByAnother(file);
  if (typeof read === 'string') return proofOf([{ name: 'read back', passed: false, finding: { code: 'UNREADABLE' } }]);
  const lines = linesOn(composition, 'file');
  const fallBacks = fallBacksOf(composition, context);
  const { missing, more } = compare(read, composition, lines, context);
  const photo = read.find(({ name }) => name === 'photo')?.text ?? '';
  const told = pictureTells(photo);
  const haystack = [
    // The card's own address is no value of a line, though its holder's name may be in it.
    ...read.filter(({ name }) => !['photo', 'logo', 'source'].includes(name)).map(({ text }) => squeeze(text)),
    // How a name is spoken is written apart by its parts (common practice, no published source).
    squeeze(read.flatMap(({ name, text }) => (name.startsWith('x-phonetic-') ? text : [])).join(' ')),
    squeeze(told.texts),
  ].join('\n');
  const leaked = withheld.filter((value) => haystack.includes(squeeze(value)));
  const inNote = fallBacks.filter(({ stands }) => stands === 'in the note').map(({ line }) => line);
  const nowhere = fallBacks
    .filter(({ stands }) => stands === 'nowhere')
    .map(({ line, property }) => `${property} (${line})`);
  const note = (name: string, finding: Finding): Check => ({ name, passed: true, finding, note: true });
  const checks: Check[] = [
    {
      name: 'ticked lines',
      passed: missing.length === 0,
      finding: {
        code: 'LINES_READ',
        read: Math.max(lines.length + 1 - missing.length, 0),
        of: lines.length + 1,
        missing,
      },
    },
    {
      name: 'unticked lines',
      passed: leaked.length === 0,
      finding: { code: 'UNTICKED', still: leaked.length, of: withheld.length },
    },
    { name: 'nothing else', passed: more.length === 0, finding: { code: 'NOTHING_ELSE', more } },
    ...(photo
      ? [{ name: 'photo', passed: !told.tells, finding: { code: 'PHOTO_TELLS' as const, tells: told.tells } }]
      : []),
    {
      name: 'size',
      passed: true,
      finding: { code: 'SIZE', bytes: bytesOf(file), photo: bytesIn(photo) },
    },
    ...(context.version === '2.1' ? [note('reader', { code: 'OUR_READER' })] : []),
    ...(inNote.length > 0 ? [note('version', { code: 'IN_THE_NOTE', lines: inNote })] : []),
    ...(nowhere.length > 0 ? [note('version', { code: 'NOWHERE', lines: nowhere })] : []),
  ];
  return proofOf(checks, cautionsFor(file, composition, context));
}

/** Bytes of a text in base64 (RFC 4648 4), which its last letters may fill up. */
const bytesIn = (base64: string): number => Math.floor((base64.replace(/=+$/, '').length * 3) / 4);
const bytesOf = (text: string): number => new TextEncoder().encode(text).length;
