/** One content line of a vCard, unfolded: `group.NAME;PARAM=a,b:value` (RFC 6350 3.3). Names are upper case. */
export type ContentLine = {
  group: string;
  name: string;
  /** Parameter values by upper-case name; a bare parameter of vCard 2.1 stands under TYPE. */
  params: Map<string, string[]>;
  value: string;
  /** The line as it stood, unfolded. */
  raw: string;
  /** Number of its first physical line, from 1. */
  line: number;
};

const QUOTED_PRINTABLE = /;(ENCODING=)?QUOTED-PRINTABLE[;:]/i;
const BARE_ENCODINGS = new Set(['BASE64', 'QUOTED-PRINTABLE', 'B', '7BIT', '8BIT']);

/**
 * Unfolded lines with the number of their first physical line. A folded line goes on where the next one starts with a
 * space or tab (RFC 6350 3.2); a quoted-printable one of vCard 2.1 where it ends with `=`. Empty lines fall away.
 */
export function unfold(text: string): { text: string; line: number }[] {
  const physical = text.replace(/^\ufeff/, '').split(/\r\n|\n|\r/);
  const unfolded: { parts: string[]; line: number; soft: boolean }[] = [];
  physical.forEach((part, at) => {
    const last = unfolded.at(-1);
    if (last?.soft) {
      last.parts.push(part.replace(/=$/, ''));
      last.soft = part.endsWith('=');
    } else if (last && (part.startsWith(' ') || part.startsWith('\t'))) {
      last.parts.push(part.slice(1));
    } else if (part.trim()) {
      const soft = part.endsWith('=') && QUOTED_PRINTABLE.test(part);
      unfolded.push({ parts: [soft ? part.slice(0, -1) : part], line: at + 1, soft });
    }
  });
  return unfolded.map(({ parts, line }) => ({ text: parts.join(''), line }));
}

/** Whether the value is quoted-printable, as vCard 2.1 writes letters beyond ASCII. */
export const isQuotedPrintable = (line: ContentLine): boolean =>
  (line.params.get('ENCODING') ?? []).some((value) => /^quoted-printable$/i.test(value));

/** A content line taken apart; null when it has no name or no colon. */
export function parseContentLine(raw: string, line: number): ContentLine | null {
  const head = /^(?:([A-Za-z0-9-]+)\.)?([A-Za-z0-9-]+)/.exec(raw);
  if (!head) return null;
  const params = new Map<string, string[]>();
  let at = head[0].length;
  while (raw[at] === ';') {
    const end = endOfParameter(raw, at + 1);
    addParameter(params, raw.slice(at + 1, end));
    at = end;
  }
  if (raw[at] !== ':') return null;
  return {
    group: (head[1] ?? '').toLowerCase(),
    name: head[2]!.toUpperCase(),
    params,
    value: raw.slice(at + 1),
    raw,
    line,
  };
}

/** Where a parameter ends: at the next `;` or `:` outside double quotes. */
function endOfParameter(raw: string, from: number): number {
  let quoted = false;
  for (let at = from; at < raw.length; at += 1) {
    if (raw[at] === '"') quoted = !quoted;
    else if (!quoted && (raw[at] === ';' || raw[at] === ':')) return at;
  }
  return raw.length;
}

function addParameter(params: Map<string, string[]>, text: string) {
  const equals = text.indexOf('=');
  const bare = equals < 0;
  const name = bare
    ? BARE_ENCODINGS.has(text.toUpperCase())
      ? 'ENCODING'
      : 'TYPE'
    : text.slice(0, equals).trim().toUpperCase();
  const values = bare ? [text.trim()] : splitOutsideQuotes(text.slice(equals + 1)).map(unquote);
  // TYPE="cell,work" is how vCard 4.0 often lists types within one pair of quotes.
  const flat = name === 'TYPE' ? values.flatMap((value) => value.split(',')) : values;
  params.set(name, [...(params.get(name) ?? []), ...flat.filter(Boolean)]);
}

const splitOutsideQuotes = (text: string): string[] => text.match(/("[^"]*"|[^,])+/g) ?? [];

/** Quotes removed and the circumflex escapes of RFC 6868 undone. */
const unquote = (text: string): string =>
  text
    .trim()
    .replace(/^"(.*)"$/s, '$1')
    .replace(/\^(n|\^|')/g, (_, letter: string) => ({ n: '\n', '^': '^', "'": '"' })[letter]!);

/** Undoes backslash escapes of a text value (RFC 6350 3.4); a backslash before any other character stays. */
export const unescapeText = (value: string): string =>
  value.replace(/\\([nN,;:\\])/g, (_, letter: string) => (letter === 'n' || letter === 'N' ? '\n' : letter));

/** Splits a structured value at `separator` where it is not escaped, and unescapes the parts. */
export function splitValue(value: string, separator: ';' | ','): string[] {
  const parts: string[] = [''];
  for (let at = 0; at < value.length; at += 1) {
    const letter = value[at]!;
    if (letter === '\\' && at + 1 < value.length) parts[parts.length - 1] += letter + value[(at += 1)];
    else if (letter === separator) parts.push('');
    else parts[parts.length - 1] += letter;
  }
  return parts.map(unescapeText);
}

/** Quoted-printable (RFC 2045 6.7) decoded as UTF-8; what is no valid sequence stays as it stood. */
export function decodeQuotedPrintable(value: string): string {
  try {
    return decodeURIComponent(value.replace(/%/g, '%25').replace(/=([0-9A-Fa-f]{2})/g, '%$1'));
  } catch {
    return value;
  }
}
