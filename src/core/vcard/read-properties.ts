import { LIMITS } from '@/core/limits';
import {
  cleanLine,
  cleanText,
  readEmail,
  readLink,
  readPhone,
  type Detail,
  type KeptProperty,
  type Use,
} from '@/core/record';
import { decodeQuotedPrintable, isQuotedPrintable, splitValue, unescapeText, type ContentLine } from './content-lines';

type Read = { details: Detail[]; keep: KeptProperty['why'] | null };
type Context = { country: string; label: string; nextId: number };
type Common = { id: string; label: string; preferred: boolean };

const nothing = (keep: Read['keep'] = null): Read => ({ details: [], keep });
const one = (detail: Detail): Read => ({ details: [detail], keep: null });

/** TYPE values and what they say of the use (RFC 6350 6.4.1, RFC 2426 3.3.1; EMERGENCY from memory of exports). */
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

function typesOf(line: ContentLine): string[] {
  return (line.params.get('TYPE') ?? []).map((type) => type.trim().toLowerCase());
}

/** Some address books write their own labels as `_$!<Home>!$_` (common practice, no published source). */
function labelAndUses(line: ContentLine, label: string): { label: string; uses: Use[] } {
  const inner = /^_\$!<(.*)>!\$_$/.exec(label)?.[1];
  const named = inner ?? label;
  const fromLabel = TYPE_USES[named.toLowerCase()];
  const uses = [
    ...new Set([...typesOf(line).flatMap((type) => TYPE_USES[type] ?? []), ...(fromLabel ? [fromLabel] : [])]),
  ];
  return { label: fromLabel || inner === 'HomePage' ? '' : named, uses };
}

/** The details that one property stands for, or why it is kept as it was written. */
export function detailsFrom(line: ContentLine, context: Context): Read {
  const value = isQuotedPrintable(line) ? decodeQuotedPrintable(line.value) : line.value;
  const { label, uses } = labelAndUses(line, context.label);
  const common: Common = {
    id: `d${context.nextId}`,
    label: cleanLine(label).text.slice(0, 120),
    preferred: line.params.has('PREF') || typesOf(line).includes('pref'),
  };
  return READERS[line.name]?.(value, common, uses, context, line) ?? nothing('not-understood');
}

type Reader = (value: string, common: Common, uses: Use[], context: Context, line: ContentLine) => Read;

const text =
  (kind: 'title' | 'role' | 'pronouns' | 'nickname'): Reader =>
  (value, common) => {
    const read = cleanLine(unescapeText(value)).text;
    if (read.length > LIMITS.text) return nothing('unreadable-value');
    return read ? one({ kind, ...common, text: read }) : nothing();
  };

const link: Reader = (value, common, uses) => {
  const raw = unescapeText(value).trim();
  if (!raw) return nothing();
  const read = readLink(raw);
  if (read.ok) return one({ kind: 'link', ...common, url: read.value.url, uses });
  return nothing(read.problem.code === 'LINK_SCHEME_REFUSED' ? 'refused-link' : 'unreadable-value');
};

/** A profile elsewhere: its TYPE or service names it, and it is a link when its value is one. */
const profile: Reader = (value, common, uses, context, line) => {
  const service =
    line.params.get('SERVICE-TYPE')?.[0] ?? typesOf(line).find((type) => !TYPE_USES[type] && type !== 'pref') ?? '';
  const label = common.label || service.charAt(0).toUpperCase() + service.slice(1);
  return link(
    value.replace(/^x-apple:/i, ''),
    { ...common, label: cleanLine(label).text.slice(0, 120) },
    uses,
    context,
    line,
  );
};

const READERS: Record<string, Reader | undefined> = {
  TEL: (value, common, uses, { country }) => {
    const raw = unescapeText(value).trim();
    if (!raw) return nothing();
    const read = readPhone(raw, country);
    return read.ok ? one({ kind: 'phone', ...common, ...read.value, uses }) : nothing('unreadable-value');
  },
  EMAIL: (value, common, uses) => {
    const raw = unescapeText(value).trim();
    if (!raw) return nothing();
    const read = readEmail(raw);
    return read.ok
      ? one({
          kind: 'email',
          ...common,
          address: read.value,
          uses: uses.filter((use) => use === 'work' || use === 'home'),
        })
      : nothing('unreadable-value');
  },
  URL: link,
  'X-SOCIALPROFILE': profile,
  SOCIALPROFILE: profile,
  IMPP: profile,
  ADR: (value, common, uses) => {
    const [poBox = '', extended = '', street = '', locality = '', region = '', postcode = '', country = ''] =
      splitValue(value, ';').map((part) => cleanText(part).text);
    const parts = [poBox, extended, street, locality, region, postcode, country];
    if (parts.some((part) => part.length > LIMITS.text)) return nothing('unreadable-value');
    const flat = (part: string) => cleanLine(part).text;
    if (parts.every((part) => !part)) return nothing();
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
    });
  },
  ORG: (value, common) => {
    const [name = '', ...units] = splitValue(value, ';').map((part) => cleanLine(part).text.slice(0, LIMITS.text));
    return name || units.some(Boolean)
      ? one({ kind: 'organisation', ...common, name, units: units.filter(Boolean).slice(0, 10) })
      : nothing();
  },
  TITLE: text('title'),
  ROLE: text('role'),
  NICKNAME: text('nickname'),
  PRONOUNS: text('pronouns'),
  'X-PRONOUNS': text('pronouns'),
  NOTE: (value, common) => {
    const read = cleanText(unescapeText(value)).text;
    if (read.length > LIMITS.note) return nothing('unreadable-value');
    return read ? one({ kind: 'note', ...common, text: read }) : nothing();
  },
  BDAY: (value, common) => {
    const date = birthdayOf(value.trim());
    return date ? one({ kind: 'birthday', ...common, date }) : nothing(value.trim() ? 'unreadable-value' : null);
  },
  PHOTO: () => nothing('not-understood'),
};

/** `19840630`, `1984-06-30`, with or without a time, `--0630` and `--06-30` (RFC 6350 6.2.5, RFC 2426 3.1.5). */
function birthdayOf(value: string): string | null {
  const found = /^(\d{4}|--)-?(0[1-9]|1[0-2])-?(0[1-9]|[12]\d|3[01])(T.*)?$/.exec(value);
  return found && (found[1] === '--' ? `--${found[2]}-${found[3]}` : `${found[1]}-${found[2]}-${found[3]}`);
}
