import ICAL from 'ical.js';
import type { Finding } from '@/core/findings';
import { linesOn, squeeze, type ComposedLine, type Composition } from '@/core/card';
import { fallBacksOf, readContacts, type ContactFileContext } from '@/core/vcard';
import { expectedOf, type Expected } from './expected';
import { pictureTells } from './picture-metadata';
import { proofOf, type Check, type Proof } from './proof';
import { cautionsFor } from './cautions';

/** A property as another program's reader found it: texts joined by `;`, types in lower case and in order. */
type Found = {
  name: string;
  group: string;
  types: string;
  pref: boolean;
  text: string;
  language: string;
  altid: string;
};

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

type Raw = [name: string, params: Record<string, string | string[]>, type: string, ...values: unknown[]];

/** The properties as ical.js reads them, or why it cannot. */
function readByAnother(file: string): Found[] | string {
  try {
    const parsed = ICAL.parse(file) as unknown as [string, Raw[]] | [string, Raw[]][];
    const card = (typeof parsed[0] === 'string' ? parsed : parsed[0]) as [string, Raw[]];
    if (card[0] !== 'vcard' || (typeof parsed[0] !== 'string' && parsed.length !== 1)) return '';
    return card[1].map(([name, params, type, ...values]) =>
      found(name, params, values.map((value) => textAsRead(value, type)).join(',')),
    );
  } catch {
    return '';
  }
}

/** That reader leaves an extension's value as it is written (RFC 7095 5.1), and the semicolons of a text escaped. */
function textAsRead(value: unknown, type: string): string {
  if (Array.isArray(value)) return value.flat().join(';');
  const text = String(value);
  if (type === 'unknown')
    return text.replace(/\\([nN,;\\])/g, (_, letter: string) => (letter === 'n' || letter === 'N' ? '\n' : letter));
  return type === 'text' ? text.replace(/\\;/g, ';') : text;
}

function readByOurs(file: string): Found[] | string {
  const read = readContacts(file);
  const [only] = read;
  if (read.length !== 1 || !only?.card || only.warnings.length > 0) return '';
  return [
    found('version', {}, only.card.version),
    ...only.card.properties.map(({ name, group, params, values }) =>
      found(
        name,
        { ...Object.fromEntries(params), ...(group ? { group } : {}) },
        values
          .map((value) => (typeof value === 'string' ? value : value.flat().join(';')))
          .join(',')
          .replace(/^data:[^,]*;base64,/, ''),
      ),
    ),
  ];
}

function found(name: string, params: Record<string, string | string[]>, text: string): Found {
  const grouped = /^(item\d+)\.(.*)$/i.exec(name);
  const types = [params.type ?? []].flat().flatMap((type) => type.toLowerCase().split(','));
  return {
    name: (grouped?.[2] ?? name).toLowerCase(),
    group: (grouped?.[1] ?? [params.group ?? ''].flat()[0] ?? '').toLowerCase(),
    types:
      name === 'photo' || name === 'logo'
        ? ''
        : types
            .filter((type) => type !== 'pref' && type !== 'internet' && type !== 'voice')
            .sort()
            .join(),
    pref: types.includes('pref') || params.pref !== undefined,
    language: [params.language ?? ''].flat()[0]!,
    altid: [params.altid ?? ''].flat()[0]!,
    text: text.replace(/\r\n?/g, '\n').replace(/^data:image\/\w+;base64,/, ''),
  };
}

/** Each expected property taken out of what was found: what stays on either side is missing or more. */
function compare(read: Found[], composition: Composition, lines: ComposedLine[], context: ContactFileContext) {
  const left = new Set(read);
  const missing: (string | null)[] = [];
  const labels = new Map(read.filter(({ name }) => name === 'x-ablabel').map((each) => [each.group, each]));
  const altids = new Map<string, string>();
  const take = ({ title, name, text, types, pref, label, language = '', set }: Expected) => {
    const match = [...left].find(
      (each) =>
        each.name === name &&
        each.text === text &&
        each.types === types &&
        each.pref === pref &&
        each.language === language &&
        (set === undefined ? each.altid === '' : each.altid !== '' && each.altid === (altids.get(set) ?? each.altid)) &&
        (label === null || labels.get(each.group)?.text === label) &&
        (label !== null || !each.group),
    );
    if (!match) return void missing.push(title);
    left.delete(match);
    if (set !== undefined) altids.set(set, match.altid);
    const named = match.group ? labels.get(match.group) : undefined;
    if (named) left.delete(named);
  };
  for (const expected of expectedOf(composition, lines, context)) take(expected);
  return {
    missing: [...new Set(missing)],
    more: [...new Set([...left].map(({ name }) => name.toUpperCase().slice(0, 60)))],
  };
}
