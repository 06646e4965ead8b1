import { request, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { settings } from '@/server/env';
import { createListener } from '@/server/listen/listener';
import { useDatabase } from './place';

useDatabase();

/** What reaches the studio behind the listener. */
const reached: string[] = [];
let server: Server;
let silent: string[] = [];
let waits = false;
let ends = false;
let begin = () => {};
beforeAll(
  () =>
    new Promise<void>((resolve) => {
      server = createListener(
        (asked, response) => {
          reached.push(asked.url ?? '');
          response.end('studio');
        },
        () => (ends ? 'ending' : waits ? 'waiting' : silent.length > 0 ? silent : 'ready'),
        new Promise((begun) => (begin = begun)),
      ).listen(0, '127.0.0.1', resolve);
    }),
);
afterAll(() => new Promise((resolve) => server.close(resolve)));

type Asked = { status: number; text: string; location: string | undefined; connection: string | undefined };

function ask(path: string, host: string, method = 'GET', headers: Record<string, string> = {}): Promise<Asked> {
  const { port } = server.address() as AddressInfo;
  return new Promise((resolve, reject) => {
    const asked = request(
      { port, path, method, headers: { Host: host, Connection: 'keep-alive', ...headers }, agent: false },
      (answer) => {
        let text = '';
        answer.on('data', (chunk) => (text += String(chunk)));
        const { socket } = answer;
        const { location, connection } = answer.headers;
        answer.once('end', () => {
          socket.destroy();
          resolve({ status: answer.statusCode ?? 0, text, location, connection });
        });
      },
    );
    asked.once('error', reject);
    asked.end();
  });
}

test('the studio does not answer on card hosts, nor cards on the studio’s', async () => {
  settings().CARD_HOSTS['cards.tarnhope.example'] = '00000000-0000-4000-8000-000000000000';
  for (const host of ['cards.example', 'cards.tarnhope.example', 'CARDS.example']) {
    expect(await ask('/sign-in', host)).toMatchObject({ status: 404 });
    // A card that there is not is said to a recipient in a page of ours.
    expect((await ask('/c/nobody-is-here', host)).text).toContain('<!doctype html>');
  }
  expect(reached).toEqual([]);
  expect(await ask('/c/nobody-is-here', 'studio.example')).toMatchObject({
    status: 404,
    text: 'There is nothing here.',
  });
  expect(await ask('/sign-in', 'studio.example')).toMatchObject({ status: 200, text: 'studio' });
  expect(reached).toEqual(['/sign-in']);
  for (const host of ['cards.example', 'studio.example', '127.0.0.1'])
    expect((await ask('/healthz', host)).status).toBe(200);
});

test('a host that no setting names has nothing, but for whoever asks whether the process lives', async () => {
  const before = reached.length;
  for (const host of ['elsewhere.example', 'studio.example:8443', 'x.studio.example', 'studio.example.', ''])
    for (const path of ['/', '/sign-in', '/c/nobody-is-here', '/fonts/x.woff2', '/api/people'])
      expect([host, path, await ask(path, host)]).toMatchObject([
        host,
        path,
        { status: 404, text: 'There is nothing here.' },
      ]);
  expect(reached).toHaveLength(before);
  expect((await ask('/healthz', '10.0.0.7')).status).toBe(200);
  // A demo answers under every name that its machine has for itself, and through another port.
  const was = { ...settings() };
  Object.assign(settings(), { BASE_URL: 'http://127.0.0.1:4600', PUBLIC_URL: 'http://127.0.0.1:4600' });
  for (const host of ['127.0.0.1:4600', 'localhost:4600', '[::1]:8080'])
    expect([host, await ask('/sign-in', host)]).toMatchObject([host, { status: 200, text: 'studio' }]);
  expect((await ask('/sign-in', 'localhost.example:4600')).status).toBe(404);
  Object.assign(settings(), was);
});

test('what came without TLS to an address that has it is sent there, or refused; only a trusted proxy is believed', async () => {
  const [was, now] = [{ ...settings() }, settings()];
  const by = (protocol: string) => ({ 'X-Forwarded-Proto': protocol });
  Object.assign(now, { BASE_URL: 'https://studio.example', PUBLIC_URL: 'https://cards.example' });
  try {
    expect((await ask('/sign-in', 'studio.example', 'GET', by('http'))).status).toBe(200);
    now.TRUSTED_PROXIES = 1;
    expect(await ask('/sign-in?a=b', 'studio.example', 'GET', by('http'))).toMatchObject({
      ...{ status: 308, location: 'https://studio.example/sign-in?a=b' },
    });
    expect(await ask('/c/somebody', 'cards.example', 'HEAD', by('http'))).toMatchObject({
      ...{ status: 308, location: 'https://cards.example/c/somebody' },
    });
    expect(await ask('/api/people', 'studio.example', 'POST', by('http'))).toMatchObject({ status: 403 });
    // What a client wrote stands further left than what the proxy in front of us did.
    expect((await ask('/sign-in', 'studio.example', 'GET', by('http, https'))).status).toBe(200);
    expect((await ask('/sign-in', 'studio.example', 'GET', by('https, http'))).status).toBe(308);
  } finally {
    Object.assign(now, was);
  }
});

test('before its database is there it lives, is not ready, and nobody gets further than a sentence', async () => {
  waits = true;
  const before = reached.length;
  expect(await ask('/healthz', 'studio.example')).toMatchObject({ status: 200, text: 'ok' });
  for (const path of ['/readyz', '/c/nobody-is-here', '/sign-in', '/fonts/x.woff2'])
    expect(await ask(path, 'studio.example')).toMatchObject({
      status: 503,
      text: 'The database does not answer yet. Try again in a moment.',
    });
  expect(reached).toHaveLength(before);
  waits = false;
});

test('whoever asks while it begins is held and then answered; whoever left meanwhile reaches nothing, and no crowd is held', async () => {
  waits = true;
  const before = reached.length;
  const { port } = server.address() as AddressInfo;
  const left = request({ port, path: '/left', headers: { Host: 'studio.example' } }).on('error', () => undefined);
  left.end();
  const crowd = Array.from({ length: 520 }, () => ask('/sign-in', 'studio.example'));
  // Of a crowd those beyond what is held hear at once that it is not there yet.
  expect((await Promise.race(crowd)).status).toBe(503);
  left.destroy();
  await ask('/healthz', 'studio.example');
  waits = false;
  begin();
  const letIn = (await Promise.all(crowd)).filter(({ status }) => status === 200).length;
  expect(letIn).toBeGreaterThan(100);
  expect(letIn).toBeLessThanOrEqual(500);
  expect(reached.slice(before)).not.toContain('/left');
  expect(await ask('/sign-in', 'studio.example')).toMatchObject({ status: 200, text: 'studio' });
});

test('while it ends it says so and still answers, on connections that it then lets go', async () => {
  expect((await ask('/sign-in', 'studio.example')).connection).toBe('keep-alive');
  ends = true;
  expect(await ask('/readyz', 'studio.example')).toMatchObject({ status: 503, text: 'ending' });
  expect(await ask('/sign-in', 'studio.example')).toMatchObject({ status: 200, text: 'studio', connection: 'close' });
  ends = false;
});

test('readiness names what gives no heartbeat; security.txt says where holes are told, once that is set', async () => {
  expect(await ask('/readyz', 'studio.example')).toMatchObject({ status: 200, text: 'ready' });
  silent = ['the jobs'];
  expect(await ask('/readyz', 'studio.example')).toMatchObject({ status: 503, text: 'no heartbeat: the jobs' });
  silent = [];
  settings().SECURITY_CONTACT = 'mailto:holes@heath.example';
  // RFC 9116 2.5.3 and 2.5.5: both fields are needed, the date in the form of RFC 3339.
  for (const host of ['cards.example', 'studio.example'])
    expect((await ask('/.well-known/security.txt', host)).text).toMatch(
      /^Contact: mailto:holes@heath\.example\nExpires: \d{4}-\d\d-\d\dT\d\d:\d\d:\d\d\.\d{3}Z\n$/,
    );
  settings().SECURITY_CONTACT = undefined;
  expect(await ask('/', 'studio.example', 'TRACE')).toMatchObject({ status: 405 });
});
