import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer as createHttp, request as httpRequest, type Server } from 'node:http';
import { createServer as createHttps } from 'node:https';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { run as check } from '../../commands/check';
import { asOwner } from '../../commands/cluster/databases';
import { freePort } from '../../commands/cluster/ports';
import { allowPrefix } from '../../commands/prefix';
import { settings } from '@/server/env';
import { hasLostLogin } from '@/server/db/jobs/failures';
import { findCardHosts } from '@/server/listen/card-hosts';
import { createListener } from '@/server/listen/listener';
import { clockAt, databaseUrl, newActor, useDatabase } from './place';

/*
 * Each thing that can be wrong with what an installation stands on is made wrong, and `./heathland check` is to name it. What certificates
 * say is told by Node.js's own TLS; the proxies are ours, and do what real ones do that nobody has set up.
 */
useDatabase();
const scratch = mkdtempSync(path.join(tmpdir(), 'heathland-check-'));
const servers: Server[] = [];
afterAll(() => {
  for (const server of servers) {
    server.closeAllConnections();
    server.close();
  }
  rmSync(scratch, { recursive: true, force: true });
});

const listening = async (server: Server): Promise<number> => {
  servers.push(server);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return (server.address() as AddressInfo).port;
};

/** What it says, each thing with its sentence; those that are wrong alone. */
async function wrongWith(over: Partial<ReturnType<typeof settings>>): Promise<string[]> {
  const before = { ...settings() };
  Object.assign(settings(), over);
  let said = '';
  const stdout = jest.spyOn(process.stdout, 'write').mockImplementation((text) => Boolean((said += String(text))));
  try {
    const code = await check([]);
    const wrong = said.split('\n').flatMap((line) => (line.startsWith('WRONG  ') ? [line.slice(7)] : []));
    expect(code).toBe(wrong.length > 0 ? 1 : 0);
    return wrong;
  } finally {
    stdout.mockRestore();
    Object.assign(settings(), before);
  }
}

/** A process of ours behind a proxy that changes headers on the way, at an address of this machine. */
async function behind(change: (headers: Record<string, string | undefined>) => object): Promise<string> {
  const inner = await listening(
    createListener(
      () => undefined,
      () => 'ready',
    ),
  );
  const proxy = createHttp((asked, answer) => {
    const headers = change(asked.headers as Record<string, string | undefined>);
    const on = httpRequest({ port: inner, host: '127.0.0.1', path: asked.url, headers: { ...headers } }, (from) => {
      answer.writeHead(from.statusCode!, from.headers);
      from.pipe(answer);
    });
    on.end();
  });
  return `http://127.0.0.1:${await listening(proxy)}`;
}

const at = (url: string) => ({ BASE_URL: url, PUBLIC_URL: url });
/** For what is wrong elsewhere these are as they should be. */
let well = { BASE_URL: '', PUBLIC_URL: '' };
beforeAll(async () => {
  well = at(await behind((headers) => headers));
});

test('with everything as it should be nothing is wrong; an address where nothing answers yet is none', async () => {
  expect(await wrongWith(well)).toEqual([]);
  expect(await wrongWith(at(`http://127.0.0.1:${await freePort()}`))).toEqual([]);
});

test('what stands in front is told by how a request arrives behind it', async () => {
  const added = await behind((headers) => ({ ...headers, 'x-forwarded-for': '192.0.2.7, 192.0.2.8' }));
  for (const [trusted, sentence] of [
    [0, 'leads here through 2 that add to X-Forwarded-For, and TRUSTED_PROXIES is 0.'],
    [1, 'leads here through 2 that add to X-Forwarded-For, and TRUSTED_PROXIES is 1.'],
  ] as const)
    expect(await wrongWith({ ...at(added), TRUSTED_PROXIES: trusted })).toEqual(
      ['BASE_URL', 'PUBLIC_URL'].map((name) => `${name}: ${sentence}`),
    );
  expect(await wrongWith({ ...at(added), TRUSTED_PROXIES: 2 })).toEqual([]);
  const renamed = await behind((headers) => ({ ...headers, host: 'heathland:4600' }));
  expect(await wrongWith({ ...well, BASE_URL: renamed })).toEqual([
    'BASE_URL: leads here, but as “heathland:4600”: what stands in front must hand on the Host that was asked for.',
  ]);
  // Whoever has no secret learns nothing of what stands in front.
  const stranger = await fetch(`${added}/healthz`, { headers: { 'X-Heathland-Check': 'f'.repeat(64) } });
  expect(await stranger.text()).toBe('ok');
});

test('an address that leads elsewhere, to another installation, to nobody, or to a certificate of another name', async () => {
  const wrong = async (url: string) => (await wrongWith({ ...well, PUBLIC_URL: url, TRUSTED_PROXIES: 0 })).join('\n');
  const other = await listening(createHttp((_, answer) => answer.end('<h1>It works!</h1>')));
  expect(await wrong(`http://127.0.0.1:${other}`)).toMatch(
    /PUBLIC_URL: something answers there with 200, and it is no/,
  );
  const stranger = await listening(createHttp((_, answer) => answer.end('ok')));
  expect(await wrong(`http://127.0.0.1:${stranger}`)).toContain('has another SESSION_SECRET, or a clock minutes off');
  expect(await wrong('http://nobody.invalid')).toMatch(/PUBLIC_URL: (There is no such host|Its name cannot be looked)/);
  const [key, certificate] = ['key.pem', 'certificate.pem'].map((name) => path.join(scratch, name));
  const names = ['-subj', '/CN=other.example', '-keyout', key!, '-out', certificate!];
  execFileSync('openssl', ['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-days', '2', ...names], {
    stdio: 'ignore',
  });
  const secured = createHttps({ key: readFileSync(key!), cert: readFileSync(certificate!) }, (_, answer) =>
    answer.end('ok'),
  );
  const told = await wrong(`https://127.0.0.1:${await listening(secured)}`);
  expect(told).toContain('PUBLIC_URL: Its certificate is nobody’s that this machine trusts.');
  // Nobody in front is believed, though nothing here ends TLS.
  expect(told).toContain('proxies: TRUSTED_PROXIES is 0, though what ends TLS stands in front');
});

test('a database that is away, lets nobody in, or has too few connections; a host of nobody', async () => {
  const away = await wrongWith({ ...well, DATABASE_URL: 'postgres://a:b@127.0.0.1:9/none' });
  expect(away).toEqual(['database: Nothing answers there.']);
  const url = Object.assign(new URL(databaseUrl), { password: 'wrong' }).href;
  expect(await wrongWith({ ...well, DATABASE_URL: url })).toEqual([
    'database: The database refuses the password of DATABASE_URL.',
  ]);
  expect((await wrongWith({ ...well, DATABASE_CONNECTIONS: 100 })).join()).toMatch(
    /^connections: \d+ are left, and a process of Heathland takes up to 257\.$/,
  );
  expect(await wrongWith({ ...well, CARD_HOSTS: { 'cards.nobody.example': 'nobody' } })).toEqual([
    'CARD_HOSTS: No organisation’s addresses begin with “nobody”: see ./heathland prefix.',
  ]);
});

test('a host by an organisation’s short name is its own; one of nobody answers nothing and stops nobody', async () => {
  const { organisationId } = await newActor(clockAt('2026-05-04T08:00:00Z'));
  await asOwner(databaseUrl, (client) => allowPrefix(client, 'tarnhope', organisationId));
  const before = settings().CARD_HOSTS;
  settings().CARD_HOSTS = { 'cards.tarnhope.example': 'tarnhope', 'cards.nobody.example': 'nobody' };
  await findCardHosts();
  expect(settings().CARD_HOSTS).toEqual({ 'cards.tarnhope.example': organisationId });
  // The studio and the jobs, which start afterwards, are told of the organisation itself.
  expect(process.env.CARD_HOSTS).toBe(`cards.tarnhope.example=${organisationId}`);
  settings().CARD_HOSTS = before;
  delete process.env.CARD_HOSTS;
});

test('a login that the server refuses is told from a server that is away (PostgreSQL, appendix A)', async () => {
  const url = Object.assign(new URL(databaseUrl), { password: 'wrong' }).href;
  const refused = await asOwner(url, (client) => client.query('SELECT 1')).catch((error: unknown) => error);
  const away = await asOwner('postgres://a:b@127.0.0.1:9/none', (client) => client.query('SELECT 1')).catch(
    (error: unknown) => error,
  );
  expect([hasLostLogin(refused), hasLostLogin(away)]).toEqual([true, false]);
});
