import type { DOMPurify } from 'dompurify';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';

let purify: DOMPurify | undefined;

/** Elements and attributes of SVG 2 whose names have capitals; those of filters are in the list of Filter Effects 1. */
const CASED_TAGS = [
  ...['clipPath', 'linearGradient', 'radialGradient', 'textPath', 'feBlend', 'feColorMatrix', 'feComponentTransfer'],
  ...[
    'feComposite',
    'feDropShadow',
    'feFlood',
    'feFuncA',
    'feFuncB',
    'feFuncG',
    'feFuncR',
    'feGaussianBlur',
    'feMerge',
  ],
  ...['feMergeNode', 'feMorphology', 'feOffset'],
];
const CASED_ATTRIBUTES = [
  ...['viewBox', 'preserveAspectRatio', 'gradientUnits', 'gradientTransform', 'spreadMethod', 'patternUnits'],
  ...['patternContentUnits', 'patternTransform', 'clipPathUnits', 'maskUnits', 'maskContentUnits', 'pathLength'],
  ...['textLength', 'lengthAdjust', 'startOffset', 'stdDeviation', 'filterUnits', 'primitiveUnits', 'tableValues'],
];

/** Pixels a side of a picture within a drawing: whoever paints it holds all of them. */
const MOST_WITHIN = 4_096;

/** Whether an address is a PNG written out in it, of no more pixels than that (PNG, 11.2.2: width and height come first). */
function isSmallPng(address: string): boolean {
  const [, base64] = /^data:image\/png;base64,([A-Za-z0-9+/]{32,}={0,2})$/.exec(address) ?? [];
  if (!base64) return false;
  const head = Buffer.from(base64.slice(0, 32), 'base64');
  return head.readUInt32BE(16) <= MOST_WITHIN && head.readUInt32BE(20) <= MOST_WITHIN;
}

/** Whether bytes are meant as SVG: text that begins with a tag. Told by the content, never by the name. */
export const looksLikeSvg = (bytes: Buffer): boolean =>
  /^\ufeff?\s*<[?!a-z]/i.test(bytes.subarray(0, 200).toString('utf8'));

/**
 * Counts elements, their depth and their attributes before anything is parsed; each letter is looked at once. Error: DRAWING_TOO_COMPLEX.
 */
function refuseMonsters(text: string): void {
  const { svgElements, svgDepth, svgAttributes } = LIMITS;
  let [elements, depth] = [0, 0];
  for (let at = text.indexOf('<'); at >= 0; at = text.indexOf('<', at + 1)) {
    const next = text[at + 1];
    if (next === '/') {
      depth -= 1;
      continue;
    }
    if (next === '!' || next === '?') continue;
    let end = at + 1;
    let quote = '';
    let attributes = 0;
    for (; end < text.length && (quote || text[end] !== '>'); end += 1) {
      const letter = text[end]!;
      if (quote) quote = letter === quote ? '' : quote;
      else if (letter === '"' || letter === "'") quote = letter;
      else if (letter === '=') attributes += 1;
    }
    elements += 1;
    if (text[end - 1] !== '/') depth += 1;
    if (elements > svgElements || depth > svgDepth || attributes > svgAttributes)
      throw new Refusal({ code: 'DRAWING_TOO_COMPLEX', elements: svgElements, depth: svgDepth });
    at = end;
  }
}

/** A document of its own takes a second to load and seventy megabytes: whoever handles no drawing goes without. */
async function purifier(): Promise<DOMPurify> {
  const [{ default: createDOMPurify }, { JSDOM }] = await Promise.all([import('dompurify'), import('jsdom')]);
  const made = createDOMPurify(new JSDOM('').window);
  made.addHook('afterSanitizeAttributes', (node) => {
    for (const name of ['href', 'xlink:href', 'src', 'style', 'fill', 'stroke', 'filter', 'mask', 'clip-path']) {
      const value = node.getAttribute(name) ?? '';
      const outside =
        name.endsWith('href') || name === 'src'
          ? !/^#/.test(value) && !isSmallPng(value)
          : /url\(\s*['"]?(?!#)/i.test(value);
      if (value && outside) node.removeAttribute(name);
    }
  });
  return made;
}

/**
 * An SVG without script, event attributes, foreign objects and references to anything outside itself, sanitised by
 * DOMPurify. With `pictures` those that are written out in it as small PNG stay. Entities are refused before anything parses them (they can grow a few bytes into gigabytes).
 * Errors: PICTURE_UNREADABLE, FILE_TOO_LARGE, DRAWING_TOO_COMPLEX.
 */
export async function sanitiseSvg(bytes: Buffer, { pictures = false } = {}): Promise<Buffer> {
  if (bytes.length > LIMITS.svgBytes) throw new Refusal({ code: 'FILE_TOO_LARGE', limitBytes: LIMITS.svgBytes });
  const text = bytes.toString('utf8');
  if (/<!ENTITY/i.test(text)) throw new Refusal({ code: 'PICTURE_UNREADABLE' });
  refuseMonsters(text);
  purify ??= await purifier();
  const clean = purify.sanitize(text, {
    // Read as XML, which SVG is: read as HTML, an element left open would swallow what follows it.
    PARSER_MEDIA_TYPE: 'application/xhtml+xml',
    USE_PROFILES: { svg: true, svgFilters: true },
    // The sanitiser's lists are in small letters, as HTML has them; of XML it takes names as they are written.
    ADD_TAGS: CASED_TAGS,
    ADD_ATTR: CASED_ATTRIBUTES,
    FORBID_TAGS: ['style', 'feImage', 'a', 'animate', 'set', 'use', ...(pictures ? [] : ['image'])],
  });
  if (!/^<svg[\s>]/i.test(clean)) throw new Refusal({ code: 'PICTURE_UNREADABLE' });
  return Buffer.from(clean);
}
