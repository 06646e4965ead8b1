import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { request as ask } from 'node:http';
import { connect } from 'node:net';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import { sendEach } from '../../../commands/bench/attack';
import { WORST_INPUTS } from '../../fixtures/worst-inputs';
import { APPLICATION, DATABASE } from '../ports';

const ADDRESS = `http://127.0.0.1:${APPLICATION}`;
const database = new URL(process.env.TEST_DATABASE_SERVER!);
database.pathname = `/${DATABASE}`;

/** Routes that read a body, and kinds of the compute pool, as they stand in the source. */
function waysIn(): { routes: string[]; kinds: string[] } {
  const root = 'src/app/(studio)';
  const routes = readdirSync(root, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && entry.name === 'route.ts')
    .flatMap((entry) => {
      const text = readFileSync(path.join(entry.parentPath, entry.name), 'utf8');
      // Each handler from its `export const` to the next one.
      const handlers = text.split(/^(?=export const )/m);
      return handlers.flatMap((handler) => {
        const method = /^export const (POST|PUT|PATCH|DELETE) =/.exec(handler)?.[1];
        return method && /\b(inputOf|bytesOf)\(/.test(handler)
          ? `${method} /${path.relative(root, entry.parentPath)}`
          : [];
      });
    });
  const kinds = [...readFileSync('src/server/compute/deadlines.ts', 'utf8').matchAll(/^ {2}'?([a-z ]+)'?: [\d_]+,$/gm)];
  return { routes, kinds: kinds.map(([, kind]) => kind!) };
}

test('every way in, and every kind of laborious work, has its worst shape', () => {
  const { routes, kinds } = waysIn();
  expect(routes.length).toBeGreaterThan(25);
  expect(kinds.length).toBeGreaterThan(10);
  expect(routes.filter((route) => !WORST_INPUTS.some(({ door }) => door === route))).toEqual([]);
  expect(kinds.filter((kind) => !WORST_INPUTS.some((input) => input.kinds?.includes(kind)))).toEqual([]);
});

test('whatever anybody sends is answered, and nobody else stands still for it', async () => {
  test.setTimeout(600_000);
  // How much longer others wait of each is measured by `./heathland bench attack`, with time enough; seconds are more than a busy machine takes.
  const atMost = { recipient: 2_000, signedIn: 5_000 };
  const { all, slowest, suspects } = await sendEach(ADDRESS, database.href, 3, atMost);
  const waited = `${JSON.stringify(slowest)} while this was sent: ${suspects.join('; ')}`;
  expect([waited, slowest.recipient < atMost.recipient, slowest.signedIn < atMost.signedIn]).toEqual([
    waited,
    true,
    true,
  ]);
  // Nothing was answered with a failure of ours, and nothing without an answer; whoever is not let in has tried nothing.
  expect(all.filter(({ answers }) => /× (500|none)/.test(answers))).toEqual([]);
  expect(all.filter(({ spends, answers }) => /× 401/.test(answers) && !spends)).toEqual([]);
  // All of it was really looked at: the studio still works on what it was given.
  expect(all.length).toBeGreaterThan(50);
});

test('five hundred phones behind one address are served while a hundred requests stand unfinished', async () => {
  const unfinished = Array.from({ length: 100 }, () => {
    const socket = connect(APPLICATION, '127.0.0.1', () =>
      socket.write('POST /api/records/import HTTP/1.1\r\nHost: x\r\nContent-Length: 9000000\r\n\r\nBEGIN'),
    );
    socket.on('error', () => undefined);
    socket.resume();
    return socket;
  });
  const phone = () =>
    new Promise<number>((resolve) => {
      const asked = ask(`${ADDRESS}/c/nobody-is-here`, { agent: false }, (answer) => {
        answer.resume();
        resolve(answer.statusCode ?? 0);
      });
      asked.once('error', () => resolve(0));
      asked.end();
    });
  const statuses = await Promise.all(Array.from({ length: 500 }, phone));
  expect(statuses.filter((status) => status !== 404)).toEqual([]);
  // A body that stands still is given up.
  await expect
    .poll(() => unfinished.filter((socket) => !socket.destroyed && !socket.closed).length, { timeout: 30_000 })
    .toBe(0);
});

test('an office whose tables are all open goes on working: streams of events are no requests under way', async ({
  request,
}) => {
  const account = { name: 'Office', password: 'a curlew at dusk over peat', country: 'GB', timeZone: 'Europe/London' };
  const headers = { Origin: ADDRESS };
  await request.post(`${ADDRESS}/api/sign-up`, {
    headers,
    data: { ...account, email: `office-${Date.now()}@heath.example` },
  });
  const made = await request.post(`${ADDRESS}/api/records`, { headers, data: { name: 'Ilse', phone: '', email: '' } });
  const { cardId } = (await made.json()) as { cardId: string };
  const { cookies } = await request.storageState();
  const Cookie = cookies.map(({ name, value }) => `${name}=${value}`).join('; ');
  const url = `${ADDRESS}/api/cards/${cardId}/live`;
  const table = () =>
    new Promise<{ status: number; end: () => void }>((resolve, reject) => {
      const asked = ask(url, { agent: false, headers: { Cookie } }, (answer) => {
        answer.resume();
        answer.on('error', () => undefined);
        resolve({ status: answer.statusCode ?? 0, end: () => asked.destroy() });
      });
      asked.once('error', reject);
      asked.end();
    });
  // More than may be under way at a time, each group once the one before is open.
  const open: Awaited<ReturnType<typeof table>>[] = [];
  for (let group = 0; group < 6; group += 1) open.push(...(await Promise.all(Array.from({ length: 75 }, table))));
  expect(new Set(open.map(({ status }) => status))).toEqual(new Set([200]));
  expect((await request.get(`${ADDRESS}/api/cards/${cardId}`)).status()).toBe(200);
  open.forEach(({ end }) => end());
});

test('a studio that stands still is told by /readyz, ended and started again; recipients notice nothing', async () => {
  const [pid] = execFileSync('pgrep', ['-f', `studio-process.mjs .*"port":${APPLICATION}`], { encoding: 'utf8' })
    .trim()
    .split('\n');
  const ready = async () => {
    const answer = await fetch(`${ADDRESS}/readyz`);
    return `${answer.status} ${await answer.text()}`;
  };
  expect(await ready()).toBe('200 ready');
  process.kill(Number(pid), 'SIGSTOP');
  await expect.poll(ready, { timeout: 15_000 }).toBe('503 no heartbeat: the studio');
  expect((await fetch(`${ADDRESS}/c/nobody-is-here`)).status).toBe(404);
  await expect.poll(ready, { timeout: 40_000 }).toBe('200 ready');
  expect((await fetch(`${ADDRESS}/sign-in`)).status).toBe(200);
});

test('no other spelling of a recipient’s address gets past the listener, and methods that echo are not answered', async () => {
  const raw = (line: string) =>
    new Promise<string>((resolve) => {
      let text = '';
      const socket = connect(APPLICATION, '127.0.0.1', () =>
        socket.write(
          `${line} HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Heathland-Address: 192.0.2.9\r\nConnection: close\r\n\r\n`,
        ),
      );
      socket.on('data', (chunk) => (text += String(chunk)));
      socket.once('close', () => resolve(text));
    });
  const own = await raw('GET /c/nobody-is-here');
  expect(own).toMatch(/^HTTP\/1.1 404/);
  const body = (answer: string) => answer.slice(answer.indexOf('\r\n\r\n'));
  for (const spelt of [
    '/./c/nobody-is-here',
    '//c/nobody-is-here',
    '/x/../c/nobody-is-here',
    '/%63/nobody-is-here',
    '/%2e/c/nobody-is-here',
    '/\\c/nobody-is-here',
    '/c/./nobody-is-here',
    'http://127.0.0.1/c/nobody-is-here',
  ])
    expect([spelt, body(await raw(`GET ${spelt}`))]).toEqual([spelt, body(own)]);
  expect(await raw('TRACE /')).toMatch(/^HTTP\/1.1 405/);
  expect(await raw('GET c/nobody')).toMatch(/^HTTP\/1.1 400/);
});
