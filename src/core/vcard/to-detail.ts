import { LIMITS } from '@/core/limits';
import {
  BIRTHDAY,
  cleanLine,
  cleanText,
  readEmail,
  readLink,
  readPhone,
  type Detail,
  type KeptProperty,
  type Use,
} from '@/core/record';
import { textOf, type Component, type Property } from './property';

type Read = { details: Detail[]; keep: KeptProperty['why'] | null };
type Context = { country: string; label: string; nextId: number; preferred: boolean };
type Common = { id: string; label: string; preferred: boolean };

const nothing = (keep: Read['keep'] = null): Read => ({ details: [], keep });
const one = (detail: Detail): Read => ({ details: [detail], keep: null });

/** TYPE values and what they say of the use (RFC 6350 6.4.1, RFC 2426 3.3.1; the rest from memory of exports). */
const TYPE_USES: Record<string, Use> = {
  cell: 'mobile',
  mobile: 'mobile',
  iphone: 'mobile',
  work: 'work',
  business: 'work',
  home: 'home',
  fax: 'fax',
  emergency: 'emergency',
  text: 'text',
  pager: 'pager',
  video: 'video',
};

const typesOf = (property: Property): string[] => property.params.get('type') ?? [];

/** Some address books write their own labels as `_$!<Home>!$_` (common practice, no published source). */
function labelAndUses(property: Property, label: string): { label: string; uses: Use[] } {
  const inner = /^_\$!<(.*)>!\$_$/.exec(label)?.[1];
  const named = inner ?? label;
  const fromLabel = TYPE_USES[named.toLowerCase()];
  const uses = [
    ...new Set([...typesOf(property).flatMap((type) => TYPE_USES[type] ?? []), ...(fromLabel ? [fromLabel] : [])]),
  ];
  return { label: fromLabel || inner === 'HomePage' ? '' : named, uses };
}

/** The details that one property stands for, or why it is kept as it was written. */
export function detailsFrom(property: Property, context: Context): Read {
  const { label, uses } = labelAndUses(property, context.label);
  const common: Common = {
    id: `d${context.nextId}`,
    label: cleanLine(label).text.slice(0, LIMITS.label),
    preferred: context.preferred,
  };
  const reader = READERS[property.name] ?? (property.name.startsWith('x-') ? extension : undefined);
  return reader?.(property, common, uses, context) ?? nothing('not-understood');
}

type Reader = (property: Property, common: Common, uses: Use[], context: Context) => Read;

const lineOf = (property: Property): string => cleanLine(textOf(property)).text;

const text =
  (kind: 'title' | 'role' | 'pronouns' | 'language'): Reader =>
  (property, common) => {
    const read = lineOf(property);
    if (read.length > LIMITS.text) return nothing('unreadable-value');
    return read ? one({ kind, ...common, text: read }) : nothing();
  };

const list =
  (kind: 'nickname' | 'category'): Reader =>
  ({ values }, common) => {
    const read = cleanLine(
      values
        .map((value) => (typeof value === 'string' ? value : ''))
        .filter(Boolean)
        .join(', '),
    ).text;
    if (read.length > LIMITS.text) return nothing('unreadable-value');
    return read ? one({ kind, ...common, text: read }) : nothing();
  };

function linkFrom(raw: string, common: Common, uses: Use[]): Read {
  if (!raw) return nothing();
  const read = readLink(raw);
  if (read.ok)
    return one({
      kind: 'link',
      ...common,
      url: read.value.url,
      uses: uses.filter((use) => use === 'work' || use === 'home'),
    });
  return nothing(read.problem.code === 'LINK_SCHEME_REFUSED' ? 'refused-link' : 'unreadable-value');
}

const link: Reader = (property, common, uses) => linkFrom(textOf(property).trim(), common, uses);

const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);

/** A profile elsewhere: its TYPE or service names it, and it is a link when its value is one. */
const profile: Reader = (property, common, uses) => {
  const service = property.params.get('service-type')?.[0] ?? typesOf(property).find((type) => !TYPE_USES[type]) ?? '';
  const label = common.label || capital(service);
  // Some address books put a scheme of their own before the address or the name.
  const value = textOf(property)
    .trim()
    .replace(/^x-[a-z]+:(?=\S)/i, '');
  const named = { ...common, label: cleanLine(label).text.slice(0, LIMITS.label) };
  const read = linkFrom(value, named, uses);
  return read.keep === 'unreadable-value' ? nothing('not-understood') : read;
};

/** An extension that holds a web address is a link, named by what stands after `X-`. */
const extension: Reader = (property, common, uses) => {
  const value = textOf(property).trim();
  if (!/^https?:\/\/\S+$/i.test(value)) return nothing('not-understood');
  const label = common.label || capital(property.name.slice(2).replace(/-/g, ' '));
  return linkFrom(value, { ...common, label: label.slice(0, LIMITS.label) }, uses);
};

const READERS: Record<string, Reader | undefined> = {
  tel: (property, common, uses, { country }) => {
    const raw = textOf(property).trim();
    if (!raw) return nothing();
    const read = readPhone(raw, country);
    return read.ok ? one({ kind: 'phone', ...common, ...read.value, uses }) : nothing('unreadable-value');
  },
  email: (property, common, uses) => {
    const raw = textOf(property).trim();
    if (!raw) return nothing();
    const read = readEmail(raw);
    const kept = uses.filter((use) => use === 'work' || use === 'home');
    return read.ok ? one({ kind: 'email', ...common, address: read.value, uses: kept }) : nothing('unreadable-value');
  },
  url: link,
  geo: link,
  'x-socialprofile': profile,
  socialprofile: profile,
  impp: profile,
  adr: (property, common, uses) => {
    const parts = (property.values[0] ?? []) as Component[];
    const [poBox = '', extended = '', street = '', locality = '', region = '', postcode = '', country = ''] = (
      typeof parts === 'string' ? [parts] : parts
    ).map((part) => cleanText(typeof part === 'string' ? part : part.join(', ')).text);
    const all = [poBox, extended, street, locality, region, postcode, country];
    if (all.some((part) => part.length > LIMITS.text)) return nothing('unreadable-value');
    if (all.every((part) => !part)) return nothing();
    const flat = (part: string) => cleanLine(part).text;
    const geo = /^geo:(-?\d{1,3}(?:\.\d+)?,-?\d{1,3}(?:\.\d+)?)/i.exec(
      property.params.get('geo')?.join(',') ?? '',
    )?.[1];
    return one({
      kind: 'address',
      ...common,
      uses: uses.filter((use) => use === 'work' || use === 'home'),
      poBox: flat(poBox),
      extended: flat(extended),
      street,
      locality: flat(locality),
      region: flat(region),
      postcode: flat(postcode),
      country: flat(country),
      ...(geo ? { geo } : {}),
    });
  },
  org: ({ values }, common) => {
    const parts = Array.isArray(values[0]) ? values[0] : [values[0] ?? ''];
    const [name = '', ...units] = parts.map((part) =>
      cleanLine(typeof part === 'string' ? part : part.join(', ')).text.slice(0, LIMITS.text),
    );
    return name || units.some(Boolean)
      ? one({ kind: 'organisation', ...common, name, units: units.filter(Boolean).slice(0, 10) })
      : nothing();
  },
  title: text('title'),
  role: text('role'),
  nickname: list('nickname'),
  categories: list('category'),
  pronouns: text('pronouns'),
  lang: text('language'),
  note: (property, common) => {
    const read = cleanText(textOf(property)).text;
    if (read.length > LIMITS.note) return nothing('unreadable-value');
    return read ? one({ kind: 'note', ...common, text: read }) : nothing();
  },
  bday: (property, common) => {
    const raw = textOf(property).trim();
    // A year that stands only because the form wants one is no year of birth (common practice, no published source).
    const omitted = [...property.params].find(([name]) => name.endsWith('omit-year'))?.[1][0];
    const day = raw.replace(/T.*$/, '');
    const date = omitted && day.startsWith(`${omitted}-`) ? `-${day.slice(omitted.length)}` : day;
    if (BIRTHDAY.test(date)) return one({ kind: 'birthday', ...common, date });
    return nothing(raw ? 'unreadable-value' : null);
  },
};
