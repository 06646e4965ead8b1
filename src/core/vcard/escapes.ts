import { decodedAs } from './charset';

/** Undoes backslash escapes of a text value (RFC 6350 3.4), wrong ones such as `\:` too; before any other letter a backslash stays. */
export const unescapeText = (value: string): string =>
  value.includes('\\')
    ? value.replace(/\\([nN,;:\\])/g, (_, letter: string) => (letter === 'n' || letter === 'N' ? '\n' : letter))
    : value;

/** Splits a value at `separator` where no backslash escapes it; the parts keep their escapes. */
export function splitEscaped(value: string, separator: ';' | ','): string[] {
  if (!value.includes('\\')) return value.split(separator);
  const parts: string[] = [];
  let from = 0;
  for (let at = 0; at < value.length; at += 1) {
    if (value[at] === '\\') at += 1;
    else if (value[at] === separator) {
      parts.push(value.slice(from, at));
      from = at + 1;
    }
  }
  parts.push(value.slice(from));
  return parts;
}

/** Escapes a text value: backslash, comma, semicolon and line feed (RFC 6350 3.4, RFC 2426 5), so that it stays one value. */
export const escapeText = (text: string): string =>
  /[\\,;\n]/.test(text) ? text.replace(/[\\,;]/g, '\\$&').replace(/\n/g, '\\n') : text;

export const escapeButSemicolon = (text: string): string =>
  /[\\,\n]/.test(text) ? text.replace(/[\\,]/g, '\\$&').replace(/\n/g, '\\n') : text;

/** What no text value may hold: line ends are made `\n`, other controls but the tab fall away (RFC 6350 3.3, VALUE-CHAR). */
export const plainText = (text: string): string =>
  /[\u0000-\u0008\u000b-\u001f\u007f]/.test(text)
    ? text.replace(/\r\n?/g, '\n').replace(/[\u0000-\u0008\u000b-\u001f\u007f]/g, '')
    : text;

/** Quoted-printable (RFC 2045 6.7) as text of a charset; what is no valid sequence stays as it stood. */
export function decodeQuotedPrintable(value: string, charset: string): string {
  if (!value.includes('=')) return value;
  const bytes = new Uint8Array(value.length * 3);
  const encoder = new TextEncoder();
  let length = 0;
  let plain = 0;
  const putPlain = (to: number) => {
    if (to > plain) length += encoder.encodeInto(value.slice(plain, to), bytes.subarray(length)).written;
  };
  for (let at = value.indexOf('='); at >= 0; at = value.indexOf('=', at + 1)) {
    const hex = value.slice(at + 1, at + 3);
    if (!/^[0-9A-Fa-f]{2}$/.test(hex)) continue;
    putPlain(at);
    bytes[length] = Number.parseInt(hex, 16);
    length += 1;
    plain = at + 3;
    at += 2;
  }
  putPlain(value.length);
  const used = bytes.subarray(0, length);
  try {
    return decodedAs(charset, used, { fatal: charset === 'utf-8' });
  } catch {
    return decodedAs('windows-1252', used);
  }
}

/** Each byte as quoted-printable writes it. Readers take a backslash for an escape, so it is coded; a semicolon is escaped. */
const CODED = Array.from({ length: 256 }, (_, byte) => {
  if (byte === 0x3b) return '\\;';
  const plain = byte >= 0x20 && byte <= 0x7e && byte !== 0x3d && byte !== 0x5c;
  return plain ? String.fromCharCode(byte) : `=${byte.toString(16).toUpperCase().padStart(2, '0')}`;
});
const encoder = new TextEncoder();
export const ASCII = /^[\u0000-\u007f]*$/;

/**
 * Texts in quoted-printable over UTF-8 (RFC 2045 6.7), with `between` as it is between them and soft line ends so that no
 * line is longer than 76 letters. `used`: letters that stand before on the first line.
 */
export function encodeQuotedPrintable(texts: string[], between: string, used: number): string {
  let out = '';
  let column = used;
  const put = (piece: string) => {
    column += piece.length;
    if (column > 75) {
      out += '=\r\n';
      column = piece.length;
    }
    out += piece;
  };
  for (const [index, text] of texts.entries()) {
    if (index > 0) put(between);
    const whole = text.replace(/\n/g, '\r\n');
    const bytes = ASCII.test(whole) ? null : encoder.encode(whole);
    const length = bytes?.length ?? whole.length;
    for (let at = 0; at < length; at += 1) {
      const byte = bytes ? bytes[at]! : whole.charCodeAt(at);
      // A space at the end of a line is lost on some ways.
      put(byte === 0x20 && at === length - 1 ? '=20' : CODED[byte]!);
    }
  }
  return out;
}
