import { ASCII, encodeQuotedPrintable, escapeButSemicolon, escapeText, plainText } from './escapes';
import { NEWER, STRUCTURED, textOf, type Component, type Property, type Value, type VcardVersion } from './property';

const OCTETS = 75;

/** A content line folded so that no physical line exceeds 75 octets and no character is cut (RFC 6350 3.2), with its CRLF. */
export function fold(line: string): string {
  // No letter takes more than three octets a code unit.
  if (line.length * 3 <= OCTETS) return `${line}\r\n`;
  if (ASCII.test(line)) {
    if (line.length <= OCTETS) return `${line}\r\n`;
    const parts = [line.slice(0, OCTETS)];
    for (let at = OCTETS; at < line.length; at += OCTETS - 1) parts.push(line.slice(at, at + OCTETS - 1));
    return `${parts.join('\r\n ')}\r\n`;
  }
  const parts: string[] = [];
  let from = 0;
  let octets = 0;
  for (let at = 0; at < line.length;) {
    const point = line.codePointAt(at)!;
    const size = point < 0x80 ? 1 : point < 0x800 ? 2 : point < 0x10000 ? 3 : 4;
    if (octets + size > OCTETS) {
      parts.push(line.slice(from, at));
      from = at;
      octets = 1;
    }
    octets += size;
    at += point > 0xffff ? 2 : 1;
  }
  parts.push(line.slice(from));
  return `${parts.join('\r\n ')}\r\n`;
}

/** A contact's text in a version. `properties` without BEGIN, VERSION and END. */
export function writeVcard(properties: Property[], version: VcardVersion): string {
  const lines = properties.map((each) => (version === '2.1' ? line21(each) : fold(contentLine(each, version))));
  return `BEGIN:VCARD\r\nVERSION:${version}\r\n${lines.join('')}END:VCARD\r\n`;
}

/** What of a contact a version has no property or no form for, by the name of the property (RFC 2426, vCard 2.1). */
export const newerThan = (properties: Property[], version: VcardVersion): string[] =>
  version === '4.0' ? [] : [...new Set(properties.filter(({ name }) => NEWER.has(name)).map(({ name }) => name))];

const nameOf = ({ group, name }: Property, version: VcardVersion): string => {
  const written = version !== '4.0' && NEWER.has(name) && !OLD_TOO.has(name) ? `X-${name}` : name;
  return (group ? `${group}.` : '') + (LABEL_NAMES[written] ?? written.toUpperCase());
};
/** Newer properties that older programs understand under their own name (RFC 4770 for 3.0). */
const OLD_TOO = new Set(['impp']);
const LABEL_NAMES: Record<string, string> = { 'x-ablabel': 'X-ABLabel' };

/** A property as one content line of 3.0 or 4.0, unfolded. */
export function contentLine(each: Property, version: '3.0' | '4.0'): string {
  const start = nameOf(each, version);
  const params = parametersOf(each.params, version);
  const embedded = version === '3.0' ? embeddedOf(each) : null;
  if (embedded) return `${start};ENCODING=b${mediaType(embedded.media)}${params}:${embedded.data}`;
  const kind = valueType(each, version);
  const values =
    each.values.length === 1
      ? written(each.values[0]!, each, version)
      : each.values.map((value) => written(value, each, version)).join(',');
  return `${start}${kind ? `;VALUE=${kind}` : ''}${params}:${values}`;
}

/** Parameters repeat from contact to contact, and those that were read are shared; each is worked out once a version. */
const parameterTexts = { '3.0': new WeakMap<object, string>(), '4.0': new WeakMap<object, string>() };

function parametersOf(params: ReadonlyMap<string, string[]>, version: '3.0' | '4.0'): string {
  if (params.size === 0) return '';
  const known = parameterTexts[version].get(params);
  if (known !== undefined) return known;
  const preferred = params.has('pref');
  let text = '';
  for (const [name, values] of params) {
    if (version === '3.0' && (name === 'pref' || (name === 'type' && preferred))) continue;
    const shown = version === '3.0' && name === 'type' ? values.map((value) => value.toUpperCase()) : values;
    text += `;${name.toUpperCase()}=${shown.map(parameterValue).join(',')}`;
  }
  // Before 4.0 to be preferred is a type (RFC 2426 3.3.1).
  if (version === '3.0' && preferred)
    text += `;TYPE=${[...(params.get('type') ?? []), 'pref'].map((value) => parameterValue(value.toUpperCase())).join(',')}`;
  parameterTexts[version].set(params, text);
  return text;
}

const mediaType = (media: string): string =>
  media.startsWith('image/')
    ? `;TYPE=${media
        .slice(6)
        .toUpperCase()
        .replace(/[^A-Z0-9.+-]/g, '')}`
    : '';

/** Bytes within a property, as 2.1 and 3.0 write them. */
function embeddedOf({ values }: Property): { media: string; data: string } | null {
  const [first] = values;
  if (typeof first !== 'string' || !first.startsWith('data:')) return null;
  const comma = first.indexOf(';base64,');
  return comma < 0
    ? null
    : { media: first.slice(5, comma), data: first.slice(comma + 8).replace(/[^A-Za-z0-9+/=]/g, '') };
}

/** The VALUE parameter, where the type is not the property's own in that version. */
function valueType(each: Property, version: VcardVersion): string | null {
  const { name, type } = each;
  if (version === '4.0') {
    if (name === 'tel') return type === 'uri' ? 'uri' : null;
    if (type === 'text' && ['uid', 'bday', 'anniversary', 'related', 'key', 'tz'].includes(name) && name !== 'tz')
      return 'text';
    if (type === 'uri' && name === 'tz') return 'uri';
    return null;
  }
  const isFile = name === 'photo' || name === 'logo' || name === 'sound' || name === 'key';
  return isFile && type === 'uri' ? (version === '2.1' ? 'URL' : 'uri') : null;
}

/** A parameter's value: RFC 6868 for what would break out of it, quotes where a separator is in it (RFC 6350 3.3). */
function parameterValue(value: string): string {
  const safe = plainText(value).replace(/\^/g, '^^').replace(/\n/g, '^n').replace(/"/g, "^'");
  return /[,;:]/.test(safe) ? `"${safe}"` : safe;
}

/** Nothing in such a text needs an escape in any version. */
const SPECIAL = /[\u0000-\u001f\u007f\\,;]/;

const textIn = (value: Value, structured: boolean, escape: (text: string) => string): string =>
  typeof value === 'string'
    ? escape(plainText(value))
    : value
        .map((part) =>
          typeof part === 'string' ? escape(plainText(part)) : part.map((each) => escape(plainText(each))).join(','),
        )
        .join(structured ? ';' : ',');

function written(value: Value, each: Property, version: '3.0' | '4.0'): string {
  const { name, type } = each;
  if (typeof value === 'string' && type === 'text' && !SPECIAL.test(value)) return value;
  // One line of raw text: line ends would begin a property.
  if (type === 'unknown') return textIn(value, false, (text) => text.replace(/\n/g, '\\n'));
  const old = version === '3.0' ? oldForm(each, value) : null;
  if (old !== null) return escapeText(plainText(old)).replace(/\\([;])/g, name === 'geo' ? '$1' : '\\$1');
  if (type === 'uri') return textIn(value, false, (text) => text.replace(/\n/g, ''));
  if (type === 'date-and-or-time' || type === 'timestamp' || type === 'date' || type === 'date-time')
    return textIn(value, false, (text) => (version === '4.0' ? basicDate(text) : text).replace(/[\n,;]/g, ' '));
  // Outside components a semicolon needs no escape in 4.0 (RFC 6350 3.4), and readers leave it in; 3.0 wants it (RFC 2426 4).
  const escape = version === '4.0' && !STRUCTURED.has(name) ? escapeButSemicolon : escapeText;
  return textIn(value, STRUCTURED.has(name), escape);
}

/** Forms that changed with 4.0: a phone is a text, a place two numbers (RFC 2426 3.3.1, 3.4.2). */
function oldForm({ name, type }: Property, value: Value): string | null {
  if (type !== 'uri' || typeof value !== 'string') return null;
  if (name === 'tel') return value.replace(/^tel:/i, '');
  const place = name === 'geo' && /^geo:(-?[\d.]+),(-?[\d.]+)/i.exec(value);
  return place ? `${place[1]};${place[2]}` : null;
}

/** A date in the basic form that 4.0 wants (RFC 6350 4.3). */
const basicDate = (text: string): string =>
  text
    .replace(/^(\d{4})-(\d\d)-(\d\d)/, '$1$2$3')
    .replace(/^--(\d\d)-(\d\d)/, '--$1$2')
    .replace(/T(\d\d):(\d\d)(?::(\d\d))?/, (_, h: string, m: string, s: string | undefined) => `T${h}${m}${s ?? ''}`)
    .replace(/([+-]\d\d):(\d\d)$/, '$1$2');

/**
 * A content line of 2.1 (from memory of the text of 1998): bare types, quoted-printable in UTF-8 for what is not ASCII or
 * has a line end, base64 folded with a blank line after it. Only the semicolon is escaped, and only between components.
 */
function line21(each: Property): string {
  const name = nameOf(each, '2.1');
  const embedded = embeddedOf(each);
  const types = [...(each.params.get('type') ?? []), ...(each.params.has('pref') ? ['pref'] : [])].map((type) =>
    type.toUpperCase(),
  );
  const bare = types
    .filter((type) => /^[A-Z0-9-]+$/.test(type))
    .map((type) => `;${type}`)
    .join('');
  if (embedded) {
    const image = mediaType(embedded.media).replace('TYPE=', '');
    return `${fold(`${name};ENCODING=BASE64${image}:${embedded.data}`)}\r\n`;
  }
  const others = [...each.params]
    .filter(([param]) => param === 'language' || param.startsWith('x-'))
    .map(([param, values]) => `;${param.toUpperCase()}=${values.join(' ').replace(/[^\w .-]/g, '')}`)
    .join('');
  const kind = valueType(each, '2.1');
  const start = `${name}${kind ? `;VALUE=${kind}` : ''}${bare}${others}`;
  const structured = typeof each.values[0] !== 'string';
  const texts = structured
    ? ((each.values[0] ?? ([] as Component[])) as Component[])
    : each.values.map((value) => oldForm(each, value) ?? (typeof value === 'string' ? value : textOf(each)));
  const plain = texts.map((part) => plainText(typeof part === 'string' ? part : part.join(' ')));
  const between = structured ? ';' : ',';
  const whole = plain.map((text) => (structured ? text.replace(/;/g, '\\;') : text)).join(between);
  const simple = ASCII.test(whole) && !plain.some((text) => /[\n\\]/.test(text)) && start.length + whole.length < 74;
  if (simple) return `${start}:${whole}\r\n`;
  const coded = `${start}${ASCII.test(whole) ? '' : ';CHARSET=UTF-8'};ENCODING=QUOTED-PRINTABLE:`;
  return `${coded}${encodeQuotedPrintable(plain, between, coded.length)}\r\n`;
}
