import { Refusal } from '@/core/errors';
import type { Clock } from '@/server/clock';
import { isPassToken, passAt } from './pass';

/** What a phone asks: `path` without what lies above `/api/pass/`, each part decoded; header names in lower case. */
export type PhoneRequest = {
  method: 'GET' | 'POST' | 'DELETE';
  path: string[];
  header: (name: string) => string;
};
export type PhoneAnswer = { status: number; headers: Record<string, string>; body: Buffer | null };

/** How a phone that keeps a pass says its token (the package format's published reference). */
const SCHEME = 'ApplePass ';
const LONGEST_TOKEN = 100;
const PASS = /^([A-Za-z0-9_-]{1,100})\.pkpass$/;

function tokenOf({ header }: PhoneRequest): string {
  const said = header('authorization');
  return said.startsWith(SCHEME) ? said.slice(SCHEME.length, SCHEME.length + LONGEST_TOKEN) : '';
}

const empty = (status: number): PhoneAnswer => ({ status, headers: { 'Cache-Control': 'no-store' }, body: null });

/** A pass as a file; 304 where the phone has this very one. */
async function given(request: PhoneRequest, code: string, token: string, clock: Clock): Promise<PhoneAnswer> {
  try {
    const { bytes, type, fileName, version, changed } = await passAt(code, token, clock);
    const headers = {
      ...{ 'Content-Type': type, 'Cache-Control': 'private, no-cache', ETag: `"${version}"` },
      'Last-Modified': new Date(changed).toUTCString(),
      'Content-Disposition': `attachment; filename="${fileName}"`,
      'X-Content-Type-Options': 'nosniff',
    };
    const known = request.header('if-none-match') === headers.ETag;
    return known ? { status: 304, headers, body: null } : { status: 200, headers, body: bytes };
  } catch (error) {
    // Whether there is such a pass is nobody's to find out.
    if (error instanceof Refusal && error.problem.code === 'NOT_FOUND') return empty(401);
    throw error;
  }
}

/**
 * Answers phones that keep a pass: `CODE/TOKEN.pkpass` gives it first, `v1/passes/TYPE/CODE` as it is by now. A phone that registers itself, or writes a
 * log, is heard and not kept: nobody is told of changes, a phone asks by itself. Errors: NOT_FOUND, and those of {@link passAt}.
 */
export async function answerPhone(request: PhoneRequest, clock: Clock): Promise<PhoneAnswer> {
  const { method, path } = request;
  const token = PASS.exec(path[1] ?? '')?.[1];
  if (method === 'GET' && path.length === 2 && token) return given(request, path[0]!, token, clock);
  const [, , , last] = path;
  if (method === 'GET' && path.length === 4 && path[0] === 'v1' && path[1] === 'passes')
    return given(request, last!, tokenOf(request), clock);
  if (method === 'POST' && path.join('/') === 'v1/log') return empty(200);
  if (path[0] === 'v1' && path[1] === 'devices' && path[3] === 'registrations') {
    // Which passes of a phone have changed: nothing is kept of it, so none.
    if (method === 'GET' && path.length === 5) return empty(204);
    if (method !== 'GET' && path.length === 6)
      return empty((await isPassToken(path[5]!, tokenOf(request), clock)) ? 200 : 401);
  }
  throw new Refusal({ code: 'NOT_FOUND' });
}
