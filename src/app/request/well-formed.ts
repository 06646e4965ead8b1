import { z } from 'zod';

/** The number of a version or revision, as far as the database's own numbers go. */
export const VersionSchema = z
  .number()
  .int()
  .min(0)
  .max(2 ** 31 - 1);

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
