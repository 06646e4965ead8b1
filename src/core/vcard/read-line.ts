import { LIMITS } from '@/core/limits';
import { readableCharset } from './decode';
import { decodeQuotedPrintable, splitEscaped, unescapeText } from './escapes';
import {
  defaultType,
  LISTS,
  NEWER,
  property,
  STRUCTURED,
  WHOLE_COMPONENTS,
  type Component,
  type Property,
  type Warning,
  type VcardVersion,
} from './property';

/** Words of vCard 2.1 that stand without `ENCODING=` or `VALUE=` before them. */
const BARE_ENCODINGS = new Set(['base64', 'quoted-printable', '7bit', '8bit', 'b', 'q']);
const BARE_VALUES = new Set(['inline', 'url', 'content-id', 'cid']);
/** The VALUE words of 2.1 and 3.0 as 4.0 has them. */
const VALUE_TYPES: Record<string, string> = {
  url: 'uri',
  'content-id': 'uri',
  cid: 'uri',
  'phone-number': 'text',
  inline: '',
  binary: '',
  vcard: 'text',
};
const FILES = new Set(['photo', 'logo', 'sound', 'key']);
const MEDIA: Record<string, string> = {
  jpeg: 'image/jpeg',
  jpg: 'image/jpeg',
  png: 'image/png',
  gif: 'image/gif',
  webp: 'image/webp',
  bmp: 'image/bmp',
  tiff: 'image/tiff',
  basic: 'audio/basic',
  wave: 'audio/wav',
  x509: 'application/pkix-cert',
  pgp: 'application/pgp-keys',
};
const DATES = new Set(['date-and-or-time', 'date', 'date-time', 'timestamp']);
const NAME = /^[A-Za-z0-9_-]+$/;
const BASE64 = /^[A-Za-z0-9+/]*={0,2}$/;

type Head = {
  group: string;
  name: string;
  params: ReadonlyMap<string, string[]>;
  encoding: string;
  value: string;
  charset: string;
};
type Tell = (code: Warning['code'], line: number) => void;

/**
 * A content line taken apart (RFC 6350 3.3), of any version: `group.NAME;PARAM=a,b:value`. What is no content line becomes
 * the property `x-unreadable`, so that nothing is lost. Warnings of its value are said to `tell`.
 */
export function readLine(raw: string, line: number, tell: Tell, version: VcardVersion = '4.0'): Property {
  const colon = endOfHead(raw);
  const head = colon < 0 || colon > LIMITS.contactHead ? null : headOf(raw.slice(0, colon));
  if (!head) {
    tell('LINE_UNREADABLE', line);
    return { ...property('x-unreadable', raw), line };
  }
  const { group, name, params } = head;
  const said = head.value in VALUE_TYPES ? VALUE_TYPES[head.value]! : head.value;
  const read: Property = { group, name, params, type: said || defaultType(name), values: [], line };
  const value = raw.slice(colon + 1);
  if (head.encoding === 'b' || head.encoding === 'base64') readEmbedded(read, value, tell);
  else readValue(read, value, head, tell, version);
  return read;
}

/** Bytes in base64 as a `data:` URI. */
function readEmbedded(read: Property, value: string, tell: Tell) {
  const data = /\s/.test(value) ? value.replace(/\s+/g, '') : value;
  if (BASE64.test(data)) {
    const words = read.params.get('type') ?? [];
    const media = words.map((word) => (word.includes('/') ? word : MEDIA[word.toLowerCase()])).find(Boolean);
    if (FILES.has(read.name)) read.params = new Map([...read.params].filter(([name]) => name !== 'type'));
    read.type = 'uri';
    read.values = [`data:${media ?? 'application/octet-stream'};base64,${data}`];
  } else if (/^data:/i.test(data)) {
    // Some programs put a whole data URI where 3.0 wants bare base64.
    read.type = 'uri';
    read.values = [data];
  } else {
    tell('BASE64_INVALID', read.line);
    read.type = 'unknown';
    read.values = [value];
  }
}

function readValue(read: Property, value: string, { encoding, charset }: Head, tell: Tell, version: VcardVersion) {
  const { name, type } = read;
  const known = charset ? readableCharset(charset) : 'utf-8';
  if (!known) tell('CHARSET_UNKNOWN', read.line);
  const printable = encoding === 'quoted-printable' || encoding === 'q' ? (known ?? 'utf-8') : null;
  if (type === 'unknown') read.values = [decoded(value, printable)];
  else if (STRUCTURED.has(name))
    read.values = [components(value, printable, version !== '2.1' && !WHOLE_COMPONENTS.has(name))];
  else if (LISTS.has(name))
    read.values = splitEscaped(value, ',').map((part) => decoded(unescapeText(part), printable).trim());
  else {
    // A URI is written as it is in 4.0 (RFC 6350 4.2), yet older programs escape in it as everywhere.
    const text = decoded(unescapeText(value), printable);
    if (name === 'geo') {
      read.type = 'uri';
      read.values = [geoUri(text)];
    } else if (DATES.has(type)) read.values = [extendedDate(text.trim())];
    else if (type === 'uri') {
      const uri = text.trim();
      if (!/^[a-z][a-z0-9+.-]*:/i.test(uri)) read.type = 'text';
      read.values = [uri];
    } else read.values = [text];
  }
}

const decoded = (text: string, charset: string | null): string =>
  charset ? decodeQuotedPrintable(text, charset).replace(/\r\n?/g, '\n') : text;

/** Where the value begins: the first colon outside double quotes; the first one at all where the quotes never close. */
function endOfHead(raw: string): number {
  const colon = raw.indexOf(':');
  const quote = raw.indexOf('"');
  if (quote < 0 || quote > colon) return colon;
  let quoted = false;
  for (let at = quote; at < raw.length; at += 1) {
    const letter = raw.charCodeAt(at);
    if (letter === 0x22) quoted = !quoted;
    else if (letter === 0x3a && !quoted) return at;
  }
  return colon;
}

/** Heads repeat from contact to contact; what they say is worked out once. */
const known = new Map<string, Head | null>();
const MOST_KNOWN = 2_000;
const LONGEST_KNOWN = 100;

function headOf(text: string): Head | null {
  const before = known.get(text);
  if (before !== undefined) return before;
  const head = readHead(text);
  if (text.length <= LONGEST_KNOWN && known.size < MOST_KNOWN) known.set(text, head);
  return head;
}

function readHead(text: string): Head | null {
  const pieces = text.includes('"') ? (text.match(/(?:"[^"]*"?|[^;"])+|(?<=;)(?=;)/g) ?? []) : text.split(';');
  const full = pieces[0]!.trim();
  const dot = full.lastIndexOf('.');
  const name = full.slice(dot + 1).toLowerCase();
  const group = dot > 0 ? full.slice(0, dot).toLowerCase() : '';
  if (!NAME.test(name) || (group && !NAME.test(group))) return null;
  // What an older version wrote with X- before it is the newer property (RFC 6350 names, RFC 9554).
  const newer = name.startsWith('x-') && NEWER.has(name.slice(2)) ? name.slice(2) : name;
  const params = new Map<string, string[]>();
  const head: Head = { group, name: newer, params, encoding: '', value: '', charset: '' };
  for (let at = 1; at < pieces.length; at += 1) addParameter(head, params, pieces[at]!);
  return head;
}

function addParameter(head: Head, params: Map<string, string[]>, piece: string) {
  const equals = piece.indexOf('=');
  const bare = piece.trim().toLowerCase();
  if (!bare) return;
  if (equals < 0) {
    if (BARE_ENCODINGS.has(bare)) head.encoding = bare;
    else if (BARE_VALUES.has(bare)) head.value = bare;
    else addValue(head, params, 'type', bare);
    return;
  }
  const name = piece.slice(0, equals).trim().toLowerCase();
  const text = piece.slice(equals + 1);
  if (!text.includes('"') && !text.includes(',') && !text.includes('^'))
    return addValue(head, params, name, text.trim());
  for (const value of text.match(/(?:"[^"]*"?|[^,"])+/g) ?? []) {
    const plain = unquote(value);
    // TYPE="cell,work" is how vCard 4.0 often lists types within one pair of quotes.
    if (name === 'type') for (const each of plain.split(',')) addValue(head, params, name, each.trim());
    else addValue(head, params, name, plain);
  }
}

function addValue(head: Head, params: Map<string, string[]>, name: string, value: string) {
  if (!value || !NAME.test(name)) return;
  if (name === 'encoding') head.encoding = value.toLowerCase();
  else if (name === 'value') head.value = value.toLowerCase();
  else if (name === 'charset') head.charset = value;
  else if (name === 'type' && value.toLowerCase() === 'pref') put(params, 'pref', '1');
  else put(params, name, name === 'type' ? value.toLowerCase() : value);
}

function put(params: Map<string, string[]>, name: string, value: string) {
  const known = params.get(name);
  if (known) known.push(value);
  else params.set(name, [value]);
}

/** Quotes removed and the circumflex escapes of RFC 6868 undone. */
const unquote = (text: string): string =>
  text
    .trim()
    .replace(/^"([^"]*)"?$/, '$1')
    .replace(/\^(n|\^|')/g, (_, letter: string) => ({ n: '\n', '^': '^', "'": '"' })[letter]!);

/** The components of a structured value; in 2.1 a comma is a letter of theirs. */
function components(value: string, charset: string | null, commas: boolean): Component[] {
  const parts = splitEscaped(value, ';');
  const read: Component[] = [];
  for (const part of parts) {
    if (!commas || !part.includes(',')) read.push(decoded(unescapeText(part), charset));
    else {
      const several = splitEscaped(part, ',');
      const texts = several.map((each) => decoded(unescapeText(each), charset));
      read.push(texts.length === 1 ? texts[0]! : texts);
    }
  }
  return read;
}

/** `37.386;-122.082` of 2.1 and 3.0 as a geo URI (RFC 5870). */
function geoUri(text: string): string {
  const found = /^\s*(-?\d+(?:\.\d+)?)\s*[;,]\s*(-?\d+(?:\.\d+)?)\s*$/.exec(text);
  return found ? `geo:${found[1]},${found[2]}` : text.trim();
}

/** A date or time in the extended form of ISO 8601 that jCard wants (RFC 7095 3.5.3 and following); anything else stays. */
export function extendedDate(text: string): string {
  const [date = '', time] = text.split('T');
  const day = date.replace(/^(\d{4})(\d\d)(\d\d)$/, '$1-$2-$3').replace(/^--(\d\d)(\d\d)$/, '--$1-$2');
  if (time === undefined) return day;
  return `${day}T${time.replace(/^(\d\d)(\d\d)(?:(\d\d))?(?![:\d])/, (_, h, m, s) => (s ? `${h}:${m}:${s}` : `${h}:${m}`)).replace(/([+-]\d\d)(\d\d)$/, '$1:$2')}`;
}
