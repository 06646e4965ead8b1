export const VERSIONS = ['2.1', '3.0', '4.0'] as const;
/** 2.1: the text of 1998 (from memory); 3.0: RFC 2426; 4.0: RFC 6350. */
export type VcardVersion = (typeof VERSIONS)[number];

/** A component of a structured value: one text, or several between commas (RFC 6350 6.2.2). */
export type Component = string | string[];
/** A text, or the components of a structured value. */
export type Value = string | Component[];

/**
 * One property of a contact, the same whatever form it came in: as jCard has it (RFC 7095 3.4). Values are unescaped and
 * decoded; dates stand in extended form, embedded files as `data:` URIs. Type `unknown`: the value as it was written.
 */
export type Property = {
  group: string;
  /** Lower case. */
  name: string;
  /** Lower-case names; VALUE, ENCODING and CHARSET are used up in reading, and a `pref` type stands as `pref`. */
  params: ReadonlyMap<string, string[]>;
  type: string;
  values: Value[];
  /** Number of its first physical line, from 1; 0 where there is none. */
  line: number;
};

/** One contact of a file. `version` is the one it was written in; `line` that of its BEGIN, from 1. */
export type ContactCard = { version: VcardVersion | 'MeCard' | 'jCard'; properties: Property[]; line: number };

export const WARNING_CODES = [
  'LINE_UNREADABLE',
  'BADLY_FOLDED',
  'BASE64_INVALID',
  'CHARSET_UNKNOWN',
  'CONTROL_CHARACTERS',
  'VERSION_UNKNOWN',
  'NESTED_CARD',
  'END_MISSING',
  'END_WITHOUT_BEGIN',
  'OUTSIDE_A_CARD',
  'CARD_EMPTY',
  'TOO_MANY_PROPERTIES',
  'JSON_UNREADABLE',
] as const;
/** Something in a file that could not be understood, with its line; the rest was read. */
export type Warning = { code: (typeof WARNING_CODES)[number]; line: number };

/** A contact with what could not be understood in it, or warnings that belong to no contact. */
export type ReadContact = { card: ContactCard | null; warnings: Warning[] };

/** Values in components between semicolons (RFC 6350 6.2.2, 6.2.7, 6.3.1, 6.6.4). */
export const STRUCTURED = new Set(['n', 'adr', 'org', 'gender', 'clientpidmap']);
/** Several values between commas (RFC 6350 6.2.3, 6.7.1; RFC 6715 has none). */
export const LISTS = new Set(['nickname', 'categories']);
/** Components that are one text each, so that a comma in them is a letter (RFC 6350 6.6.4). */
export const WHOLE_COMPONENTS = new Set(['org', 'gender']);

/** The type of a value where no VALUE parameter says otherwise (RFC 6350 6 and RFC 7095 3.3; RFC 9554 for the newest). */
const TYPES: Record<string, string> = {
  ...Object.fromEntries(
    'fn n nickname gender adr tel email tz title role org categories note prodid xml kind clientpidmap pronouns gramgender label sort-string mailer agent class version x-ablabel x-phonetic-first-name x-phonetic-last-name x-pronouns x-unreadable'
      .split(' ')
      .map((name) => [name, 'text']),
  ),
  ...Object.fromEntries(
    'source photo logo sound key url uid member related impp fburl caladruri caluri geo socialprofile x-socialprofile contact-uri org-directory'
      .split(' ')
      .map((name) => [name, 'uri']),
  ),
  ...Object.fromEntries('bday anniversary deathdate'.split(' ').map((name) => [name, 'date-and-or-time'])),
  rev: 'timestamp',
  created: 'timestamp',
  lang: 'language-tag',
  language: 'language-tag',
};

export const defaultType = (name: string): string => TYPES[name] ?? 'unknown';

/** Names that came with 4.0 or later, which older versions write with `X-` before them. */
export const NEWER = new Set(
  'kind member lang gender anniversary related clientpidmap xml fburl caladruri caluri pronouns gramgender socialprofile deathdate birthplace deathplace expertise hobby interest org-directory contact-uri created language impp'.split(
    ' ',
  ),
);

/** A property without group, parameters or line. */
export const property = (
  name: string,
  value: Value,
  params: Record<string, string[]> = {},
  type = defaultType(name),
  group = '',
): Property => ({ group, name, params: new Map(Object.entries(params)), type, values: [value], line: 0 });

/** The first text of a property; the components of a structured one joined by `; `. */
export function textOf({ values }: Property): string {
  const first = values[0] ?? '';
  return typeof first === 'string'
    ? first
    : first.map((part) => (typeof part === 'string' ? part : part.join(','))).join('; ');
}

/** What frames a contact (RFC 6350 6.1.1 and 6.1.2). As a property within one it would end it wherever it is written again. */
export const isFrame = (name: string): boolean => name === 'begin' || name === 'end';
