import { spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { createServer as createHttp } from 'node:http';
import { connect, createServer, type Socket } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { startApplication } from '../../commands/application';
import { copyDatabase, dropDatabase } from '../../commands/cluster/databases';
import { ownTray } from '../../commands/mail';
import { builtRelease } from '../../commands/release/make';
import { APPLICATION, CONTROL, DATABASE, DATABASE_DOOR, NEXT_ALONE } from './ports';

/**
 * The application that the browser tests meet: a production build on a copy of the template database, reached through a
 * door that the tests can shut (`/shut`, `/open`), as if the database had been stopped; `/kill` kills the application and
 * starts it again; its mail goes to a tray, which `/mails` tells of; and Next.js alone beside it.
 */
const server = process.env.TEST_DATABASE_SERVER;
if (!server) throw new Error('These tests need a database server of their own: run ./heathland test browser');

const sockets = new Set<Socket>();
const target = new URL(server);
const door = createServer((socket) => {
  const inner = connect(Number(target.port), target.hostname);
  for (const each of [socket, inner]) {
    sockets.add(each);
    each.on('close', () => sockets.delete(each));
    each.on('error', () => [socket, inner].forEach((end) => end.destroy()));
  }
  socket.pipe(inner).pipe(socket);
});
const open = () =>
  new Promise<void>((resolve) => (door.listening ? resolve() : door.listen(DATABASE_DOOR, '127.0.0.1', resolve)));
const shut = () =>
  new Promise<void>((resolve) => {
    door.close(() => resolve());
    sockets.forEach((socket) => socket.destroy());
  });

function isThere(pid: number): boolean {
  try {
    return process.kill(pid, 0);
  } catch {
    return false;
  }
}

async function main() {
  await copyDatabase(server!, DATABASE, process.env.TEST_TEMPLATE!);
  await open();
  const url = new URL(server!);
  url.port = String(DATABASE_DOOR);
  url.pathname = `/${DATABASE}`;
  const address = `http://127.0.0.1:${APPLICATION}`;
  const tray = await ownTray(mkdtempSync(path.join(tmpdir(), 'heathland-e2e-mail-')));
  const environment = {
    DATABASE_URL: url.href,
    SESSION_SECRET: process.env.TEST_SECRET!,
    BASE_URL: address,
    PUBLIC_URL: address,
    PORT: String(APPLICATION),
    FILES_DIR: mkdtempSync(path.join(tmpdir(), 'heathland-e2e-')),
    LOG_LEVEL: 'error',
    TAG_BENCH: 'on',
    ...tray.environment,
  };
  let application = await startApplication(environment, { dev: false });
  const alone = spawn(
    process.execPath,
    ['node_modules/next/dist/bin/next', 'start', '-p', String(NEXT_ALONE), '-H', '127.0.0.1'],
    {
      cwd: await builtRelease(),
      env: { ...process.env, ...environment, NODE_ENV: 'production' },
      stdio: 'ignore',
    },
  );
  const control = createHttp(async (request, response) => {
    if (request.url === '/shut') await shut();
    if (request.url === '/open') await open();
    if (request.url === '/kill') {
      application.child.kill('SIGKILL');
      await application.ended;
      application = await startApplication(environment, { dev: false });
    }
    response.end(request.url === '/mails' ? JSON.stringify(await tray.kept()) : 'done');
  }).listen(CONTROL, '127.0.0.1');
  let ending = false;
  const end = async () => {
    if (ending) return;
    ending = true;
    control.close();
    alone.kill('SIGTERM');
    await application.stop();
    await tray.stop();
    await shut();
    // Where the whole run was broken off its database server has ended as well.
    await dropDatabase(server!, DATABASE).catch(() => undefined);
    process.exit(0);
  };
  process.once('SIGTERM', () => void end());
  // Playwright starts this in a group of its own: what broke off the run does not reach it.
  const run = Number(process.env.TEST_RUN);
  if (run) setInterval(() => isThere(run) || void end(), 1_000);
}

main().catch((error: unknown) => {
  process.stderr.write(`${String(error)}\n`);
  process.exit(1);
});
