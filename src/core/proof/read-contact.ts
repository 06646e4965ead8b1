import ICAL from 'ical.js';
import type { Composition, ComposedLine } from '@/core/card';
import { readContacts, type ContactFileContext } from '@/core/vcard';
import { expectedOf, type Expected } from './expected';

/** A property as another program's reader found it: texts joined by `;`, types in lower case and in order. */
export type Found = {
  name: string;
  group: string;
  types: string;
  pref: boolean;
  text: string;
  language: string;
  altid: string;
};

type Raw = [name: string, params: Record<string, string | string[]>, type: string, ...values: unknown[]];

/** The properties as ical.js reads them, or why it cannot. */
export function readByAnother(file: string): Found[] | string {
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

export function readByOurs(file: string): Found[] | string {
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

/** A contact as it must read: each property of its lines and no other. */
export const compare = (
  read: Found[],
  composition: Composition,
  lines: ComposedLine[],
  context: ContactFileContext,
): Compared => compareWith(read, expectedOf(composition, lines, context));

/** Lines that were not found (null of the name), and names of properties that nothing made. */
export type Compared = { missing: (string | null)[]; more: string[] };

/** Each expected property taken out of what was found: what stays on either side is missing or more. */
export function compareWith(read: Found[], all: Expected[]): Compared {
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
  for (const expected of all) take(expected);
  return {
    missing: [...new Set(missing)],
    more: [...new Set([...left].map(({ name }) => name.toUpperCase().slice(0, 60)))],
  };
}
