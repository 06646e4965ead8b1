import { LIMITS } from '@/core/limits';
import { readLink } from './link';
import { internationalForm, readPhone } from './phone';

/**
 * A service that people are reached or shown at by a number or a user name: what it is called, and its address with `{number}` or
 * `{name}` where that goes.
 */
export type Pattern = { name: string; address: string };

const PLACE = /\{(number|name)\}/g;

/** An address with its place filled; null where that leads nowhere. */
function filled(address: string, value: string): string | null {
  const read = readLink(address.replace(PLACE, () => encodeURIComponent(value)));
  return read.ok && /^https?:/.test(read.value.url) ? read.value.url : null;
}

/** Whether a pattern can be used: an address of the web with one place, below its host, and a name that a line can begin with. */
export const isPattern = ({ name, address }: Pattern): boolean =>
  /\p{L}/u.test(name) &&
  !name.includes(':') &&
  [...address.matchAll(PLACE)].length === 1 &&
  /^https?:\/\/[^/?#{}]+[/?#]/.test(address) &&
  filled(address, '1') !== null;

/**
 * The link that a line with a service's name before a number or a user name stands for: "Chat: 07700 900182", "Profile: @ilse".
 * Null where no pattern of these is meant, or what follows is neither.
 */
export function readPattern(
  raw: string,
  patterns: readonly Pattern[],
  country: string,
): { url: string; label: string } | null {
  const text = raw.trim();
  for (const { name, address } of patterns) {
    if (text.slice(0, name.length).toLowerCase() !== name.toLowerCase()) continue;
    const [, colon, value] = /^\s*([:：]?)\s*(.*)$/u.exec(text.slice(name.length)) ?? [];
    // A word that happens to follow is no user name; a number is one without a colon too.
    const said = !value
      ? null
      : address.includes('{number}')
        ? digitsOf(value, country)
        : colon || value.startsWith('@')
          ? userName(value)
          : null;
    const url = said && filled(address, said);
    if (url) return { url, label: name };
  }
  return null;
}

/** A number as services want it: its country's and its own digits and nothing else (E.164 without the plus). */
function digitsOf(value: string, country: string): string | null {
  const read = readPhone(value, country);
  return read.ok ? internationalForm(read.value).replace(/\D/g, '') : null;
}

/** A user name: letters, digits, dots, hyphens, underscores, with or without the `@` before it. */
const userName = (value: string): string | null =>
  value.length <= LIMITS.label ? (/^@?([\p{L}\p{N}][\p{L}\p{N}._-]*)$/u.exec(value)?.[1] ?? null) : null;
