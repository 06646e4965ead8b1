import { createReadStream, readdirSync, readFileSync, statSync } from 'node:fs';
import type { IncomingMessage, ServerResponse } from 'node:http';
import path from 'node:path';
import { pipeline } from 'node:stream';

const PREFIX = '/_next/static/';
const TYPES: Record<string, string> = {
  '.js': 'application/javascript; charset=utf-8',
  '.css': 'text/css; charset=utf-8',
  '.json': 'application/json; charset=utf-8',
  '.woff2': 'font/woff2',
  '.svg': 'image/svg+xml',
};
/** Other releases are looked through no oftener, however many names are asked for. */
const LOOK_AGAIN_MS = 5_000;

type Handler = (request: IncomingMessage, response: ServerResponse) => boolean;
/** A file and its size; with `compressed` that of what was compressed when it was built. */
type Kept = { file: string; size: number; compressed: boolean };

/**
 * Answers the scripts and styles of a build with what was compressed when it was built (brotli, RFC 7932, a sixth less than
 * what is compressed anew at every request). While a release takes another's place, pages of one ask processes of the other:
 * files that this release does not have come from the releases beside it. False where Next.js is to answer: another path,
 * one of this release that the client does not read so, a range. `release` is the folder in which `.next` lies.
 */
export function builtStatic(release: string): Handler {
  const own = filesOf(release);
  let others = new Map<string, Kept>();
  let looked = -Infinity;
  const ofOthers = (key: string): Kept | undefined => {
    if (!others.has(key) && performance.now() - looked > LOOK_AGAIN_MS) {
      looked = performance.now();
      others = new Map(releasesBeside(release).flatMap((folder) => [...filesOf(folder)]));
    }
    return others.get(key);
  };
  return (request, response) => {
    const [url = ''] = (request.url ?? '').split('?');
    if (
      !url.startsWith(PREFIX) ||
      url.endsWith('.br') ||
      request.headers.range ||
      !['GET', 'HEAD'].includes(request.method ?? '')
    )
      return false;
    const brotli = /(?:^|[\s,])br(?:$|[\s,;])/.test(String(request.headers['accept-encoding'] ?? ''));
    const plain = !own.has(url) && ofOthers(url);
    const kept = (brotli && (own.get(`${url}.br`) ?? (plain && ofOthers(`${url}.br`)))) || plain;
    if (!kept) return false;
    response.writeHead(200, {
      'Content-Type': TYPES[path.extname(url)] ?? 'application/octet-stream',
      ...(kept.compressed && { 'Content-Encoding': 'br' }),
      'Content-Length': kept.size,
      // Names hold a hash of what they name.
      'Cache-Control': 'public, max-age=31536000, immutable',
      Vary: 'Accept-Encoding',
      'X-Content-Type-Options': 'nosniff',
    });
    if (request.method === 'HEAD') response.end();
    else pipeline(createReadStream(kept.file), response, () => undefined);
    return true;
  };
}

/** What a release gives to browsers, by path; compressed files by their path with `.br`. */
function filesOf(release: string): Map<string, Kept> {
  const folder = path.join(release, '.next', 'static');
  const found = new Map<string, Kept>();
  try {
    for (const entry of readdirSync(folder, { recursive: true, withFileTypes: true })) {
      if (!entry.isFile()) continue;
      const file = path.join(entry.parentPath, entry.name);
      const key = PREFIX + path.relative(folder, file);
      found.set(key, { file, size: statSync(file).size, compressed: entry.name.endsWith('.br') });
    }
  } catch {
    // A release that is being removed.
  }
  return found;
}

/** What a folder's package is called; empty where there is none. */
function nameOf(folder: string): string {
  try {
    return (JSON.parse(readFileSync(path.join(folder, 'package.json'), 'utf8')) as { name?: string }).name ?? '';
  } catch {
    return '';
  }
}

/** Other releases of ours in the same folder; one that is half made begins with a dot. */
function releasesBeside(release: string): string[] {
  const folder = path.dirname(release);
  try {
    return readdirSync(folder)
      .filter((name) => !name.startsWith('.'))
      .map((name) => path.join(folder, name))
      .filter((other) => other !== release && nameOf(other) === nameOf(release));
  } catch {
    return [];
  }
}
