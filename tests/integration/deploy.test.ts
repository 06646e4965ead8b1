import { execFileSync, spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { request as plainly, type IncomingMessage, type Server } from 'node:http';
import { request as securely } from 'node:https';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { connect as shake } from 'node:tls';
import { freePort } from '../../commands/cluster/ports';
import { settings } from '@/server/env';
import { createListener } from '@/server/listen/listener';
import { useDatabase } from './place';

/* What deploy/ ships is run as it is, by the programs that it is for; hosts, ports, folders and certificates alone are others. */
useDatabase();
const scratch = mkdtempSync(path.join(tmpdir(), 'heathland-deploy-'));
afterAll(() => rmSync(scratch, { recursive: true, force: true }));

test('units and timer are what systemd can read (systemd-analyze verify)', () => {
  const units = readdirSync('deploy').filter((name) => /\.(service|timer)$/.test(name));
  expect(units.length).toBeGreaterThanOrEqual(3);
  const files = units.map((name) => path.join(scratch, name));
  units.forEach((name, at) =>
    writeFileSync(
      files[at]!,
      readFileSync(path.join('deploy', name), 'utf8').replaceAll('/opt/heathland/current', process.cwd()),
    ),
  );
  const verified = spawnSync('systemd-analyze', ['verify', ...files], { encoding: 'utf8' });
  expect([verified.status, verified.stderr]).toEqual([0, '']);
});

describe('the proxy in front', () => {
  const servers: Server[] = [];
  let [http, https] = [0, 0];
  let nginx: ChildProcess;

  /** What stands for the studio: tells the address that the listener found, and sends a stream in two parts. */
  const studio = (asked: IncomingMessage, response: import('node:http').ServerResponse) => {
    if (asked.url !== '/api/stream') {
      asked.resume();
      return void asked.once('end', () => response.end(`studio for ${String(asked.headers['x-heathland-address'])}`));
    }
    response.writeHead(200, { 'Content-Type': 'text/event-stream', 'X-Accel-Buffering': 'no' });
    response.write('data: first\n\n');
    setTimeout(() => response.end('data: second\n\n'), 600);
  };

  beforeAll(async () => {
    Object.assign(settings(), { BASE_URL: 'https://studio.example', PUBLIC_URL: 'https://c.example' });
    settings().TRUSTED_PROXIES = 1;
    const ports = await Promise.all(
      [0, 1].map(async () => {
        const port = await freePort();
        servers.push(createListener(studio, () => 'ready').listen(port, '127.0.0.1'));
        return port;
      }),
    );
    [http, https] = [await freePort(), await freePort()];
    const [key, certificate] = ['key.pem', 'certificate.pem'].map((name) => path.join(scratch, name));
    const names = ['-subj', '/CN=c.example', '-keyout', key!, '-out', certificate!];
    execFileSync('openssl', ['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-days', '2', ...names], {
      stdio: 'ignore',
    });
    const shipped = readFileSync('deploy/nginx.conf', 'utf8');
    // All at once: a free port may begin with the digits of one that is replaced.
    const doors: Record<string, string> = {
      ...{ 'listen 80': `listen 127.0.0.1:${http}`, 'listen 443': `listen 127.0.0.1:${https}` },
      ...{ '127.0.0.1:4600': `127.0.0.1:${ports[0]}`, '127.0.0.1:4601': `127.0.0.1:${ports[1]}` },
    };
    const site = shipped
      .replaceAll(/listen (?:80|443)\b|127\.0\.0\.1:460[01]\b/g, (door) => doors[door]!)
      .replace('/etc/ssl/heathland/fullchain.pem', certificate!)
      .replace('/etc/ssl/heathland/privkey.pem', key!);
    writeFileSync(path.join(scratch, 'site.conf'), site);
    const temporary = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi'].map(
      (what) => `${what}_temp_path ${scratch}/${what};`,
    );
    writeFileSync(
      path.join(scratch, 'main.conf'),
      `${process.getuid?.() === 0 ? 'user root;' : ''} daemon off; worker_processes 1; pid ${scratch}/pid; error_log stderr crit;
       events {} http { access_log off; ${temporary.join(' ')} include ${scratch}/site.conf; }`,
    );
    const use = ['-p', scratch, '-e', 'stderr', '-c', path.join(scratch, 'main.conf')];
    const tried = spawnSync('/usr/sbin/nginx', ['-t', ...use], { encoding: 'utf8' });
    expect([tried.status, tried.stderr]).toEqual([0, expect.stringContaining('test is successful')]);
    nginx = spawn('/usr/sbin/nginx', use, { stdio: 'ignore' });
    for (let tries = 0; tries < 100; tries += 1) {
      const there = await new Promise<boolean>((resolve) => {
        const socket = connect(https, '127.0.0.1', () => resolve(true)).once('error', () => resolve(false));
        socket.once('connect', () => socket.destroy());
      });
      if (there) return;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    throw new Error('nginx did not start');
  });
  afterAll(() => {
    nginx?.kill('SIGTERM');
    servers.forEach((server) => {
      server.close();
      server.closeAllConnections();
    });
  });

  type Answer = { status: number; text: string; location: string | undefined; parts: number[] };
  const ask = (
    secure: boolean,
    host: string,
    place: string,
    { method = 'GET', headers = {}, body }: { method?: string; headers?: object; body?: Buffer } = {},
  ): Promise<Answer> =>
    new Promise((resolve, reject) => {
      const to = { host: '127.0.0.1', path: place, method, headers: { Host: host, ...headers }, agent: false };
      const began = performance.now();
      const take = (answer: IncomingMessage) => {
        let text = '';
        const parts: number[] = [];
        answer.on('data', (chunk) => {
          parts.push(performance.now() - began);
          text += String(chunk);
        });
        const { location } = answer.headers;
        answer.once('end', () => resolve({ status: answer.statusCode!, text, location, parts }));
      };
      const asked = secure
        ? securely({ ...to, port: https, servername: host, rejectUnauthorized: false }, take)
        : plainly({ ...to, port: http }, take);
      asked.once('error', reject);
      asked.end(body);
    });

  test('each host has what is its own, by TLS; what came without is sent there; nobody’s host is not even answered', async () => {
    expect(await ask(true, 'studio.example', '/sign-in')).toMatchObject({ status: 200, text: 'studio for 127.0.0.1' });
    expect((await ask(true, 'c.example', '/c/nobody-is-here')).text).toContain('<!doctype html>');
    expect((await ask(true, 'c.example', '/sign-in')).status).toBe(404);
    expect(await ask(false, 'c.example', '/c/nobody-is-here')).toMatchObject({
      ...{ status: 308, location: 'https://c.example/c/nobody-is-here' },
    });
    await expect(ask(false, 'elsewhere.example', '/')).rejects.toMatchObject({ code: 'ECONNRESET' });
    const refused = await new Promise<string>((resolve) => {
      const socket = shake({
        port: https,
        host: '127.0.0.1',
        servername: 'elsewhere.example',
        rejectUnauthorized: false,
      });
      socket.once('secureConnect', () => resolve('connected')).once('error', ({ message }) => resolve(message));
    });
    expect(refused).toMatch(/unrecognized name/);
  });

  test('a client cannot say where it is; a film goes through and more does not; a stream is handed on as it comes', async () => {
    const headers = { 'X-Forwarded-For': '192.0.2.7', 'X-Forwarded-Proto': 'http', 'X-Heathland-Address': '192.0.2.8' };
    expect((await ask(true, 'studio.example', '/sign-in', { headers })).text).toBe('studio for 127.0.0.1');
    const post = (bytes: number) =>
      ask(true, 'studio.example', '/api/films', { method: 'POST', body: Buffer.alloc(bytes) }).then(
        ({ status }) => status,
      );
    expect(await post(40_000_000)).toBe(200);
    expect(await post(48_000_000)).toBe(413);
    const { text, parts } = await ask(true, 'studio.example', '/api/stream');
    expect(text).toBe('data: first\n\ndata: second\n\n');
    expect(parts.at(-1)! - parts[0]!).toBeGreaterThan(300);
  });

  test('with one of two processes gone everybody is answered by the other', async () => {
    const [first] = servers;
    first!.close();
    first!.closeAllConnections();
    const all = await Promise.all(Array.from({ length: 40 }, () => ask(true, 'studio.example', '/sign-in')));
    expect(all.filter(({ status }) => status !== 200)).toEqual([]);
  });
});
