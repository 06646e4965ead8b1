/** What a page holds, as a parser that is not ours finds it. */
export type ReadPage = {
  language: string;
  /** Texts, attribute values, comments, and what styles and scripts say in strings, addresses and comments; piece by piece. */
  pieces: string[];
  /** Addresses that a browser loads by itself from another host. */
  outside: string[];
};

/** Attributes whose address a browser loads by itself (HTML, 4: embedded content, forms). */
const LOADS = new Set(['src', 'srcset', 'poster', 'data', 'action', 'formaction', 'background']);
/** Links that only name something (HTML, 4.6.7). */
const NAMES_ONLY = /\b(canonical|alternate|me|author|license|help)\b/i;
const ELSEWHERE = /^\s*(?:https?:)?\/\//i;
/** Values of our own making, which hold no detail of anybody. */
const OURS = new Set(['class', 'id', 'style', 'width', 'height', 'type', 'rel', 'charset', 'crossorigin', 'as', 'dir']);

const STRINGS = /"((?:[^"\\]|\\.)*)"|'((?:[^'\\]|\\.)*)'|`((?:[^`\\]|\\.)*)`|\/\*([^]*?)\*\//g;
const ADDRESSES = /url\(\s*["']?([^"')]*)["']?\s*\)|@import\s+["']([^"']*)["']/gi;

/** A string of a script or of JSON as it reads. */
function unescaped(text: string): string {
  try {
    return JSON.parse(`"${text}"`) as string;
  } catch {
    return text;
  }
}

/** An address as it reads once it is opened: what is filled into a mail, a text or a chat is encoded in it (RFC 3986 2.1, and `+` in forms). */
function decoded(value: string): string {
  try {
    return decodeURIComponent(value.replace(/\+/g, ' '));
  } catch {
    return value;
  }
}

/** What a parser tells of a page, in its order; names and attributes in lower case, character references resolved. */
export type PageReader = {
  open: (name: string, attributes: Record<string, string>) => void;
  text: (more: string) => void;
  close: () => void;
  comment: (text: string) => void;
  end: () => ReadPage;
};

/** Gathers what a parser tells. What two neighbours happen to spell together is no value of either. */
export function createPageReader(): PageReader {
  const pieces: string[] = [];
  const outside: string[] = [];
  let language = '';
  let text = '';
  let code = false;
  const say = (piece: string) => {
    if (piece) pieces.push(piece);
  };
  const readCode = (source: string) => {
    for (const [, double, single, template, comment] of source.matchAll(STRINGS))
      say(unescaped(double ?? single ?? template ?? comment ?? ''));
    for (const [, address, imported] of source.matchAll(ADDRESSES)) {
      const found = address ?? imported ?? '';
      say(found);
      if (ELSEWHERE.test(found)) outside.push(found);
    }
  };
  const flush = () => {
    if (code) readCode(text);
    else say(text);
    text = '';
  };
  return {
    open: (name, attributes) => {
      flush();
      if (name === 'html') language = attributes.lang ?? '';
      code = name === 'style' || name === 'script';
      for (const [attribute, value] of Object.entries(attributes)) {
        if (attribute === 'style') readCode(value);
        else if (!OURS.has(attribute)) say(value);
        const loads =
          LOADS.has(attribute) || (name === 'link' && attribute === 'href' && !NAMES_ONLY.test(attributes.rel ?? ''));
        if (loads && value.split(',').some((each) => ELSEWHERE.test(each))) outside.push(value);
      }
    },
    text: (more) => {
      text += more;
    },
    close: () => {
      flush();
      code = false;
    },
    comment: say,
    end: () => {
      flush();
      pieces.push(...pieces.filter((piece) => /%[0-9a-f]{2}|\+/i.test(piece)).map(decoded));
      return { language, pieces, outside };
    },
  };
}
