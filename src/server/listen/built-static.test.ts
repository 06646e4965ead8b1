import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { brotliCompressSync } from 'node:zlib';
import { builtStatic } from './built-static';

/** The reader is the platform's `fetch`, which undoes the encoding that RFC 9110 8.4 tells of. */
test('a script is sent as it was compressed to whoever reads that; all else is left to the framework', async () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'built-'));
  mkdirSync(path.join(folder, 'chunks'));
  writeFileSync(path.join(folder, 'chunks', 'a.js'), 'plain');
  writeFileSync(path.join(folder, 'chunks', 'a.js.br'), brotliCompressSync('built'));
  const answered = builtStatic(folder);
  const server = createServer((request, response) => {
    if (!answered(request, response)) response.end('framework');
  }).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const ask = async (url: string, headers: Record<string, string>) =>
    (await fetch(`http://127.0.0.1:${(server.address() as AddressInfo).port}${url}`, { headers })).text();
  const reads = { 'accept-encoding': 'gzip, br' };
  expect(await ask('/_next/static/chunks/a.js', reads)).toBe('built');
  expect(await ask('/_next/static/chunks/a.js', { 'accept-encoding': 'gzip' })).toBe('framework');
  expect(await ask('/_next/static/chunks/a.js', { ...reads, range: 'bytes=0-1' })).toBe('framework');
  for (const url of ['/_next/static/chunks/a.js.br', '/_next/static/chunks/b.js'])
    expect(await ask(url, reads)).toBe('framework');
  server.closeAllConnections();
  server.close();
});
