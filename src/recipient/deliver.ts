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
  const cached = !cacheControl.includes('no-store');
  const headers: Record<string, string> = { ...output.headers, 'Cache-Control': cacheControl, ...extra };
  if (output.gzip) headers['Vary'] = headers['Vary'] ? `Accept-Encoding, ${headers['Vary']}` : 'Accept-Encoding';
  if (cached) headers['ETag'] = output.etag;
  if (cached && matches(request.header('if-none-match'), output.etag)) return { status: 304, headers, body: '' };
  const head = request.method === 'HEAD';
  if (!output.gzip) headers['Accept-Ranges'] = 'bytes';
  const range = output.gzip ? null : readRange(request.header('range'), output.body.length);
  const ifRange = request.header('if-range');
  if (range && (!ifRange || ifRange === output.etag)) {
    if (range === 'unsatisfiable')
      return { status: 416, headers: { ...headers, 'Content-Range': `bytes */${output.body.length}` }, body: '' };
    const part = output.body.subarray(range.first, range.last + 1);
    const ranged = {
      ...headers,
      'Content-Range': `bytes ${range.first}-${range.last}/${output.body.length}`,
      'Content-Length': String(part.length),
    };
    return { status: 206, headers: ranged, body: head ? '' : part };
  }
  const compressed = output.gzip && takesGzip(request.header('accept-encoding'));
  const body = compressed ? output.gzip! : output.body;
  if (compressed) headers['Content-Encoding'] = 'gzip';
  headers['Content-Length'] = String(body.length);
  return { status: 200, headers, body: head ? '' : body };
}

const matches = (ifNoneMatch: string, etag: string): boolean =>
  ifNoneMatch === '*' || ifNoneMatch.split(',').some((candidate) => candidate.trim().replace(/^W\//, '') === etag);

const takesGzip = (acceptEncoding: string): boolean =>
  /(^|[\s,])gzip(?!\s*;\s*q=0(\.0*)?\s*(,|$))/i.test(acceptEncoding);

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
