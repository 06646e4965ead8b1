import { decodedAs } from './charset';

/** Turns the bytes of a contact file into text, piece by piece. */
export type Decoder = { push: (bytes: Uint8Array) => string; end: () => string };

const NEW_LINE = 10;
const EMPTY = new Uint8Array(0);

/**
 * UTF-16 where a byte-order mark or the zero bytes of its first letters say so, else UTF-8. A line that is no UTF-8 is
 * read by the CHARSET that it names (vCard 2.1), else as Windows-1252, which holds Latin-1 (WHATWG Encoding 4.2). A file put
 * together from several programs may change from line to line.
 */
export function createDecoder(): Decoder {
  let decoder: Decoder | null = null;
  // The first four bytes tell which it is.
  let first = EMPTY;
  return {
    push(bytes) {
      if (decoder) return decoder.push(bytes);
      first = first.length === 0 ? bytes.slice() : joined([first, bytes]);
      if (first.length < 4) return '';
      decoder = decoderFor(first);
      return decoder.push(first);
    },
    end: () => (decoder ? decoder.end() : new TextDecoder().decode(first)),
  };
}

function joined(parts: Uint8Array[]): Uint8Array<ArrayBuffer> {
  const whole = new Uint8Array(parts.reduce((length, part) => length + part.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

function decoderFor(first: Uint8Array): Decoder {
  const [a, b] = first;
  if ((a === 0xff && b === 0xfe) || (a !== 0 && b === 0 && first.length > 3 && first[3] === 0))
    return utf16('utf-16le');
  if ((a === 0xfe && b === 0xff) || (a === 0 && b !== 0 && first.length > 3 && first[2] === 0))
    return utf16('utf-16be');
  return lineByLine();
}

function utf16(encoding: string): Decoder {
  const decoder = new TextDecoder(encoding);
  return { push: (bytes) => decoder.decode(bytes, { stream: true }), end: () => decoder.decode() };
}

/** A byte-order mark stays where it is: whether a piece begins with one is a matter of how the file was cut. */
const KEEPING_MARKS = { ignoreBOM: true };

/** Whole lines are decoded; what comes after the last line feed waits for the next piece. */
function lineByLine(): Decoder {
  const strict = new TextDecoder('utf-8', { fatal: true, ...KEEPING_MARKS });
  let waiting: Uint8Array[] = [];
  let charset = 'windows-1252';

  const withWaiting = (last: Uint8Array): Uint8Array => {
    if (waiting.length === 0) return last;
    const whole = joined([...waiting, last]);
    waiting = [];
    return whole;
  };
  const decode = (bytes: Uint8Array): string => {
    try {
      return strict.decode(bytes);
    } catch {
      return eachLine(bytes);
    }
  };
  /** The slow way, for pieces that are not all UTF-8. A folded line goes on in the charset of the line before. */
  function eachLine(bytes: Uint8Array): string {
    const out: string[] = [];
    for (let from = 0; from < bytes.length;) {
      const end = bytes.indexOf(NEW_LINE, from);
      const line = bytes.subarray(from, end < 0 ? bytes.length : end + 1);
      from += line.length;
      const folded = line[0] === 0x20 || line[0] === 0x09;
      if (!folded) charset = charsetIn(line);
      try {
        out.push(strict.decode(line));
      } catch {
        out.push(decodedAs(charset, line, KEEPING_MARKS));
      }
    }
    return out.join('');
  }
  return {
    push(bytes) {
      const end = bytes.lastIndexOf(NEW_LINE);
      if (end < 0) {
        waiting.push(bytes.slice());
        return '';
      }
      const text = decode(withWaiting(bytes.subarray(0, end + 1)));
      const rest = bytes.slice(end + 1);
      if (rest.length > 0) waiting.push(rest);
      return text;
    },
    end: () => decode(withWaiting(EMPTY)),
  };
}

/** The charset that a line names before its value, if it is one that we can read. */
function charsetIn(line: Uint8Array): string {
  const head = String.fromCharCode(...line.subarray(0, 300));
  const named = /^[^:]*;CHARSET=["']?([\w.-]+)/i.exec(head)?.[1];
  return (named && readableCharset(named)) || 'windows-1252';
}

/** The name by which a charset can be decoded (WHATWG Encoding), or null where it is not known. */
export function readableCharset(name: string): string | null {
  try {
    return new TextDecoder(name).encoding;
  } catch {
    return null;
  }
}
