import type { Composition } from '@/core/card';
import { readPhone, shownValue, writtenName, type Detail, type DetailKind } from '@/core/record';

/** What is told of a value: a name, or a detail that is read; pictures are none. */
export type ValueKind = 'name' | Exclude<DetailKind, 'photo' | 'logo'>;
/** A value as it goes out: a name as it is written, or a detail. */
export type Value = { kind: 'name'; text: string } | Exclude<Detail, { kind: 'photo' | 'logo' }>;

export const nameValue = ({ name }: Pick<Composition, 'name'>): Value => ({ kind: 'name', text: writtenName(name) });

const plain = (text: string): string => text.normalize('NFKC').replace(/\s+/g, ' ').trim().toLowerCase();
/** Addresses of the web that lead to one place: with and without their scheme and a last stroke. */
const place = (url: string): string =>
  url
    .trim()
    .replace(/^https?:\/\//i, '')
    .replace(/\/$/, '');

/**
 * A value by which two are held to be the same whatever their spelling: a number in E.164 with its extension after a semicolon, an address of
 * the web without its scheme, all else in lower case with single blanks. Stored with every copy: it is never changed without those.
 */
export function normalised(value: Value): string {
  switch (value.kind) {
    case 'phone':
      return value.extension ? `${value.number};${value.extension}` : value.number;
    case 'email':
      return plain(value.address);
    case 'link':
      return place(value.url);
    case 'address':
      return plain(
        [value.poBox, value.extended, value.street, value.locality, value.region, value.postcode, value.country]
          .filter(Boolean)
          .join(', '),
      );
    case 'organisation':
      return plain([value.name, ...value.units].filter(Boolean).join(', '));
    case 'birthday':
      return value.date;
    case 'hours':
      return `${value.days.map((day) => day.map(({ from, until }) => `${from}-${until}`).join()).join(';')} ${value.zone}`;
    default:
      return plain(value.text);
  }
}

/** A value as people read it. */
export const valueShown = (value: Value): string => (value.kind === 'name' ? value.text : shownValue(value));

/** Something that is dialled, with at least seven digits. Sentences end with a digit, a space or a sign between two of them is one. */
const NUMBER = /(?<![\p{L}\p{N}])\+?\(?\d(?:[\s()./‑–-]{0,3}\d){6,17}(?![\p{L}\p{N}])/gu;
/** A day in figures, which would read as a number: `30.11.2026`, `11/30/2026`, `2026-11-30`. */
const DAY =
  /(?<![\p{L}\p{N}])(?:(?:0?[1-9]|[12]\d|3[01])([./-])(?:0?[1-9]|[12]\d|3[01])\1(?:19|20)\d\d|(?:19|20)\d\d-(?:0[1-9]|1[0-2])-(?:0[1-9]|[12]\d|3[01]))(?![\p{L}\p{N}])/gu;
const MAIL = /[^\s@<>(),;:"']{1,64}@[^\s@<>(),;:"']{1,190}\.\p{L}{2,24}/gu;
/** So much of a text is looked through, and so many numbers and addresses in it are read: reading one takes its time, and others wait for it. */
const LOOKED_THROUGH = 4_000;
const MOST_READ = 20;

/** Numbers (E.164) and mail addresses that stand within a text, each once. A national number is read by `country`. */
export function recognised(text: string, country: string): { kind: 'phone' | 'email'; value: string }[] {
  const within = text.slice(0, LOOKED_THROUGH);
  const found = new Map<string, 'phone' | 'email'>();
  for (const [number] of [...within.replace(DAY, ';').matchAll(NUMBER)].slice(0, MOST_READ)) {
    const read = readPhone(number, country);
    if (read.ok) found.set(read.value.number, 'phone');
  }
  for (const [address] of [...within.matchAll(MAIL)].slice(0, MOST_READ)) found.set(plain(address), 'email');
  return [...found].map(([value, kind]) => ({ kind, value }));
}

/** What a text that is looked for may be as a stored value; a national number is read by `country`. */
export function sought(text: string, country: string): string[] {
  const typed = text.slice(0, LOOKED_THROUGH);
  const phone = readPhone(typed, country);
  const number = phone.ok
    ? [phone.value.extension ? `${phone.value.number};${phone.value.extension}` : phone.value.number]
    : [];
  return [...new Set([...number, plain(typed), place(typed)])].filter(Boolean);
}
