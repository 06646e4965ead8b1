import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { brotliCompressSync } from 'node:zlib';
import { builtStatic } from './built-static';

const releases = mkdtempSync(path.join(tmpdir(), 'built-'));
const servers: Server[] = [];
afterAll(() => {
  rmSync(releases, { recursive: true });
  servers.forEach((server) => {
    server.closeAllConnections();
    server.close();
  });
});

/** A release with one script as it is and compressed, which say which they are. */
function release(name: string, script: string, of = 'heathland'): string {
  const folder = path.join(releases, name, '.next/static/chunks');
  mkdirSync(folder, { recursive: true });
  writeFileSync(path.join(releases, name, 'package.json'), JSON.stringify({ name: of }));
  writeFileSync(path.join(folder, script), `${script} plain`);
  writeFileSync(path.join(folder, `${script}.br`), brotliCompressSync(`${script} built`));
  return path.join(releases, name);
}

/** The reader is the platform's `fetch`, which undoes the encoding that RFC 9110 8.4 tells of. */
async function asker(folder: string) {
  const answered = builtStatic(folder);
  const server = createServer((request, response) => {
    if (!answered(request, response)) response.end('framework');
  }).listen(0, '127.0.0.1');
  servers.push(server);
  await new Promise((resolve) => server.once('listening', resolve));
  const { port } = server.address() as AddressInfo;
  return async (url: string, encoding: string, more: Record<string, string> = {}) =>
    (await fetch(`http://127.0.0.1:${port}${url}`, { headers: { 'accept-encoding': encoding, ...more } })).text();
}

test('a script is sent as it was compressed to whoever reads that; all else is left to the framework', async () => {
  const ask = await asker(release('alone', 'a.js'));
  expect(await ask('/_next/static/chunks/a.js', 'gzip, br')).toBe('a.js built');
  expect(await ask('/_next/static/chunks/a.js', 'gzip')).toBe('framework');
  expect(await ask('/_next/static/chunks/a.js', 'br', { range: 'bytes=0-1' })).toBe('framework');
  for (const url of ['/_next/static/chunks/a.js.br', '/_next/static/chunks/b.js', '/_next/static/../a.js'])
    expect(await ask(url, 'br')).toBe('framework');
});

test('scripts of the release before and of the one after are there while one takes the other’s place', async () => {
  const before = await asker(release('1', 'before.js'));
  const after = await asker(release('2', 'after.js'));
  expect(await before('/_next/static/chunks/after.js', 'br')).toBe('after.js built');
  expect(await after('/_next/static/chunks/before.js', 'gzip, br')).toBe('before.js built');
  expect(await after('/_next/static/chunks/before.js', 'gzip')).toBe('before.js plain');
  // One that is still being built gives nothing, nor does what lies beside the scripts.
  release('.building-3', 'half.js');
  release('4', 'stranger.js', 'another');
  writeFileSync(path.join(releases, '1', '.next', 'listener.cjs'), 'not for browsers');
  for (const url of [
    'chunks/half.js',
    'chunks/stranger.js',
    '../listener.cjs',
    '..%2flistener.cjs',
    'chunks/before.js.br',
  ])
    expect(await after(`/_next/static/${url}`, 'br')).toBe('framework');
});
