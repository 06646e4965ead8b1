import { err, ok, type Result } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { readHours } from './hours';
import { readEmail, readLink } from './link';
import { readPhone } from './phone';
import { BIRTHDAY, TEXT_KINDS, type Use } from './kinds';
import type { Detail, DetailKind, DetailOf } from './record';
import { cleanLine, cleanText } from './text';

/** The kinds that are typed as one text; a picture is not. */
export type TypedKind = Exclude<DetailKind, 'photo' | 'logo'>;

/** They in the order in which they are offered. */
export const TYPED_KINDS: readonly TypedKind[] = [
  'phone',
  'email',
  'link',
  'address',
  'hours',
  'organisation',
  ...TEXT_KINDS,
  'birthday',
  'note',
  'own',
];

/**
 * The detail that somebody typed as one text. `country` (ISO 3166-1 alpha-2) reads a national phone number.
 * Errors: the `…_UNREADABLE` code of the kind, LINK_SCHEME_REFUSED, TEXT_TOO_LONG, INPUT when nothing was typed.
 */
export function readDetail(
  kind: TypedKind,
  raw: string,
  options: {
    id: string;
    country: string;
    uses?: Use[] | undefined;
    label?: string | undefined;
    zone?: string | undefined;
  },
): Result<Detail> {
  const multiline = kind === 'note' || kind === 'address' || kind === 'own' || kind === 'hours';
  const text = (multiline ? cleanText(raw) : cleanLine(raw)).text;
  const limit = kind === 'note' ? LIMITS.note : LIMITS.text;
  if (!text) return err({ code: 'INPUT', field: kind });
  if (text.length > limit && kind !== 'link') return err({ code: 'TEXT_TOO_LONG', limit });
  const common = { id: options.id, label: options.label ?? '', preferred: false };
  const uses = options.uses ?? [];
  switch (kind) {
    case 'phone':
      return map(readPhone(text, options.country), (phone) => ({ kind, ...common, ...phone, uses }));
    case 'email':
      return map(readEmail(text), (address) => ({ kind, ...common, address, uses }));
    case 'link':
      return map(readLink(text), ({ url }) => ({ kind, ...common, url, uses }));
    case 'address':
      return ok({ kind, ...common, uses, ...addressParts(text) });
    case 'organisation': {
      const [name = '', ...units] = text.split(/\s*[·|]\s*/);
      return ok({ kind, ...common, name, units });
    }
    case 'hours':
      return map(readHours(text, options.zone ?? 'UTC'), (hours) => ({ kind, ...common, ...hours }));
    case 'birthday':
      return BIRTHDAY.test(text) ? ok({ kind, ...common, date: text }) : err({ code: 'BIRTHDAY_UNREADABLE' });
    default:
      return ok({ kind, ...common, text });
  }
}

/** An address typed on lines or between commas: the first part is the street, the last the country when there are four or more. */
function addressParts(text: string): Omit<DetailOf<'address'>, 'kind' | 'id' | 'label' | 'preferred' | 'uses'> {
  const parts = text.split(/\s*(?:\n|,)\s*/).filter(Boolean);
  const [street = '', locality = '', ...rest] = parts;
  const country = rest.length > 1 ? rest.pop()! : '';
  const postcode = rest.find((part) => /\d/.test(part)) ?? '';
  return {
    poBox: '',
    extended: '',
    street,
    locality,
    region: rest.filter((part) => part !== postcode).join(', '),
    postcode,
    country,
  };
}

function map<A, B>(result: Result<A>, change: (value: A) => B): Result<B> {
  return result.ok ? ok(change(result.value)) : result;
}
