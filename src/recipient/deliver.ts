import type { Readable } from 'node:stream';
import { brotliOf } from './brotli';
import type { Output } from './outputs';
import type { RecipientAnswer, RecipientRequest } from './request';

/**
 * An output as the request wants it (RFC 9110): 304 when the recipient's copy is good (13.1.2), one byte range (14.2), the
 * compressed form where it is taken (12.5.3), no body for HEAD (9.3.2).
 */
export function deliver(
  request: RecipientRequest,
  output: Output,
  cacheControl: string,
  extra: Record<string, string>,
): RecipientAnswer {
  const { gzip, etag } = output;
  const length = output.body.length;
  const headers = { ...output.headers, ...extra };
  if (gzip) headers['Vary'] = varyOn(output.headers.Vary);
  const taken = request.header('accept-encoding');
  const brotli = gzip && BROTLI.test(taken) ? brotliOf(output) : null;
  const compressed = brotli ?? (gzip && GZIP.test(taken) ? gzip : null);
  const asked = select(request, { length, etag, headers, ranges: gzip === null }, cacheControl);
  if (asked.answered) return asked.answered;
  if (compressed) asked.headers['Content-Encoding'] = compressed === brotli ? 'br' : 'gzip';
  if (compressed) asked.headers['Content-Length'] = String(compressed.length);
  const body = compressed ?? output.body.subarray(asked.first, asked.last + 1);
  return { status: asked.status, headers: asked.headers, body: request.method === 'HEAD' ? '' : body };
}

/** A file of known length as the request wants it, its bytes as they come from the store; null where the store has none. */
export async function deliverFile(
  request: Pick<RecipientRequest, 'method' | 'header'>,
  file: { length: number; etag: string; headers: Record<string, string> },
  cacheControl: string,
  part: (first: number, last: number) => Promise<Readable | null>,
): Promise<RecipientAnswer | null> {
  const asked = select(request, { ...file, ranges: true }, cacheControl);
  if (asked.answered) return asked.answered;
  const body = request.method === 'HEAD' ? '' : await part(asked.first, asked.last);
  return body === null ? null : { status: asked.status, headers: asked.headers, body };
}

const varyOn = (vary: string | undefined): string => (vary ? `Accept-Encoding, ${vary}` : 'Accept-Encoding');

type Selected =
  | { answered: RecipientAnswer }
  | { answered: null; status: 200 | 206; headers: Record<string, string>; first: number; last: number };

/** Which bytes a request is to be given, and the headers that say so; or the whole answer where it is given none. */
function select(
  request: Pick<RecipientRequest, 'method' | 'header'>,
  file: { length: number; etag: string; headers: Record<string, string>; ranges: boolean },
  cacheControl: string,
): Selected {
  const { length, etag, ranges } = file;
  const cached = !cacheControl.includes('no-store');
  const headers: Record<string, string> = { ...file.headers, 'Cache-Control': cacheControl };
  if (cached) headers['ETag'] = etag;
  if (cached && matches(request.header('if-none-match'), etag)) return { answered: { status: 304, headers, body: '' } };
  if (ranges) headers['Accept-Ranges'] = 'bytes';
  const range = ranges ? readRange(request.header('range'), length) : null;
  const ifRange = request.header('if-range');
  if (!range || (ifRange && ifRange !== etag)) {
    headers['Content-Length'] = String(length);
    return { answered: null, status: 200, headers, first: 0, last: length - 1 };
  }
  if (range === 'unsatisfiable')
    return { answered: { status: 416, headers: { ...headers, 'Content-Range': `bytes */${length}` }, body: '' } };
  const { first, last } = range;
  headers['Content-Range'] = `bytes ${first}-${last}/${length}`;
  headers['Content-Length'] = String(last - first + 1);
  return { answered: null, status: 206, headers, first, last };
}

const matches = (ifNoneMatch: string, etag: string): boolean =>
  ifNoneMatch === '*' || ifNoneMatch.split(',').some((candidate) => candidate.trim().replace(/^W\//, '') === etag);

/** A coding by name, unless its weight is zero (RFC 9110 12.4.2). */
const named = (coding: string): RegExp =>
  new RegExp(`(^|[\\s,])${coding}(?=[\\s,;]|$)(?!\\s*;\\s*q=0(\\.0*)?\\s*(,|$))`, 'i');
const [BROTLI, GZIP] = [named('br'), named('gzip')];

/** One range of bytes; several at once are answered with the whole (RFC 9110 14.2 leaves that to us). */
function readRange(header: string, length: number): { first: number; last: number } | 'unsatisfiable' | null {
  const found = /^bytes=(\d*)-(\d*)$/.exec(header.trim());
  if (!found || (!found[1] && !found[2])) return null;
  if (!found[1]) {
    const suffix = Number(found[2]);
    return suffix === 0 ? 'unsatisfiable' : { first: Math.max(0, length - suffix), last: length - 1 };
  }
  const first = Number(found[1]);
  const last = found[2] ? Math.min(Number(found[2]), length - 1) : length - 1;
  if (found[2] && Number(found[2]) < first) return null;
  return first >= length ? 'unsatisfiable' : { first, last };
}
