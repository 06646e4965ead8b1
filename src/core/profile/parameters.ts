import { err, ok, type Result } from '@/core/errors';

/** The longest parameters, in characters. */
export const LONGEST_PARAMETERS = 200;

/**
 * Parameters that somebody wants on the links of a page for their own web statistics, as they stand in a query (RFC 3986 3.4), each with a name; empty
 * where they want none. A leading `?` or `&` is no part of them. Error: INPUT.
 */
export function readParameters(typed: string): Result<string> {
  const text = typed.trim().replace(/^[?&]+|[&]+$/g, '');
  if (!text) return ok('');
  const pairs = [...new URLSearchParams(text)];
  const read = new URLSearchParams(pairs).toString();
  if (/[#\s]/.test(text) || pairs.some(([name]) => !name.trim()) || read.length > LONGEST_PARAMETERS)
    return err({ code: 'INPUT', field: 'parameters' });
  return ok(read);
}
