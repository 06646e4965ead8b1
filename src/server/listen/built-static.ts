import { createReadStream, readdirSync, statSync } from 'node:fs';
import type { IncomingMessage, ServerResponse } from 'node:http';
import path from 'node:path';
import { pipeline } from 'node:stream';

const PREFIX = '/_next/static/';
const TYPES: Record<string, string> = {
  '.js': 'application/javascript; charset=utf-8',
  '.css': 'text/css; charset=utf-8',
};

type Handler = (request: IncomingMessage, response: ServerResponse) => boolean;

/**
 * Answers the scripts and styles of a build with what was compressed when it was built (brotli, RFC 7932, a sixth less than
 * what is compressed anew at every request); `folder` is the build's `static`. False where Next.js is to answer: another
 * path, a client that does not read it, a range.
 */
export function builtStatic(folder: string): Handler {
  const sizes = new Map<string, number>();
  for (const entry of readdirSync(folder, { recursive: true, withFileTypes: true })) {
    if (!entry.isFile() || !entry.name.endsWith('.br')) continue;
    const file = path.join(entry.parentPath, entry.name);
    sizes.set(PREFIX + path.relative(folder, file).slice(0, -'.br'.length), statSync(file).size);
  }
  return (request, response) => {
    const [url = ''] = (request.url ?? '').split('?');
    const size = sizes.get(url);
    const reads = /(?:^|[\s,])br(?:$|[\s,;])/.test(String(request.headers['accept-encoding'] ?? ''));
    if (!size || !reads || request.headers.range || !['GET', 'HEAD'].includes(request.method ?? '')) return false;
    response.writeHead(200, {
      'Content-Type': TYPES[path.extname(url)],
      'Content-Encoding': 'br',
      'Content-Length': size,
      // Names hold a hash of what they name.
      'Cache-Control': 'public, max-age=31536000, immutable',
      Vary: 'Accept-Encoding',
      'X-Content-Type-Options': 'nosniff',
    });
    if (request.method === 'HEAD') response.end();
    else pipeline(createReadStream(path.join(folder, `${url.slice(PREFIX.length)}.br`)), response, () => undefined);
    return true;
  };
}
