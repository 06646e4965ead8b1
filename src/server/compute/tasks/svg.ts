import createDOMPurify from 'dompurify';
import { JSDOM } from 'jsdom';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';

let purify: ReturnType<typeof createDOMPurify> | undefined;

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

/**
 * An SVG without script, event attributes, foreign objects and references to anything outside itself, sanitised by
 * DOMPurify. Entities are refused before anything parses them (they can grow a few bytes into gigabytes).
 * Errors: PICTURE_UNREADABLE, FILE_TOO_LARGE, DRAWING_TOO_COMPLEX.
 */
export function sanitiseSvg(bytes: Buffer): Buffer {
  if (bytes.length > LIMITS.svgBytes) throw new Refusal({ code: 'FILE_TOO_LARGE', limitBytes: LIMITS.svgBytes });
  const text = bytes.toString('utf8');
  if (/<!ENTITY/i.test(text)) throw new Refusal({ code: 'PICTURE_UNREADABLE' });
  refuseMonsters(text);
  if (!purify) {
    purify = createDOMPurify(new JSDOM('').window);
    purify.addHook('afterSanitizeAttributes', (node) => {
      for (const name of ['href', 'xlink:href', 'src', 'style', 'fill', 'stroke', 'filter', 'mask', 'clip-path']) {
        const value = node.getAttribute(name) ?? '';
        const outside = name.endsWith('href') || name === 'src' ? !/^#/.test(value) : /url\(\s*['"]?(?!#)/i.test(value);
        if (value && outside) node.removeAttribute(name);
      }
    });
  }
  const clean = purify.sanitize(text, {
    // Read as XML, which SVG is: read as HTML, an element left open would swallow what follows it.
    PARSER_MEDIA_TYPE: 'application/xhtml+xml',
    USE_PROFILES: { svg: true, svgFilters: true },
    FORBID_TAGS: ['style', 'image', 'feImage', 'a', 'animate', 'set', 'use'],
  });
  if (!/^<svg[\s>]/i.test(clean)) throw new Refusal({ code: 'PICTURE_UNREADABLE' });
  return Buffer.from(clean);
}
