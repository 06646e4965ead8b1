import { z } from 'zod';
import { LIMITS } from '@/core/limits';

/** The number of a version or revision, as far as the database's own numbers go. */
export const VersionSchema = z
  .number()
  .int()
  .min(0)
  .max(2 ** 31 - 1);

const [QUOTE, BACKSLASH, OPEN_LIST, OPEN_OBJECT, CLOSE_LIST, CLOSE_OBJECT, COMMA] = [34, 92, 91, 123, 93, 125, 44];

/** Whether JSON is no deeper and has no more values than any input of ours; looked at before it is parsed, each letter once. */
export function isModest(json: string): boolean {
  let [depth, values] = [0, 0];
  let quoted = false;
  for (let at = 0; at < json.length; at += 1) {
    const letter = json.charCodeAt(at);
    if (quoted) {
      if (letter === BACKSLASH) at += 1;
      else if (letter === QUOTE) quoted = false;
    } else if (letter === QUOTE) quoted = true;
    else if (letter === COMMA) values += 1;
    else if (letter === OPEN_LIST || letter === OPEN_OBJECT) {
      depth += 1;
      if (depth > LIMITS.jsonDepth) return false;
    } else if (letter === CLOSE_LIST || letter === CLOSE_OBJECT) depth -= 1;
    if (values > LIMITS.jsonValues) return false;
  }
  return true;
}

/** Halves of a pair without their other half, which UTF-8 cannot carry. */
const LONE_HALVES = /[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/g;

/**
 * JSON as text can be kept: JSON may carry U+0000 and lone halves of surrogate pairs (RFC 8259 8.2), which PostgreSQL's texts and
 * jsonb refuse. The one is nothing and goes, the other becomes U+FFFD.
 */
export function wellFormed(value: unknown): unknown {
  if (typeof value === 'string') return value.replaceAll('\u0000', '').replace(LONE_HALVES, '\uFFFD');
  if (Array.isArray(value)) return value.map(wellFormed);
  if (value === null || typeof value !== 'object') return value;
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [String(wellFormed(key)), wellFormed(inner)]));
}
