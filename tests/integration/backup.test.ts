import { execFileSync, fork, spawnSync, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { dropDatabase, ensureDatabase } from '../../commands/cluster/databases';
import { freePort } from '../../commands/cluster/ports';
import { postgresPrograms } from '../../commands/packages';
import { systemClock } from '@/server/clock';
import { takeContactFile } from '@/server/services/begin-import';
import { publishCard } from '@/server/services/publish-card';
import { DATABASE, databaseUrl, newActor, useDatabase } from './place';

useDatabase();
const scratch = mkdtempSync(path.join(tmpdir(), 'heathland-backup-'));
const archive = path.join(scratch, 'heath.tar');
const OTHER = `${DATABASE}_restored`;
const otherUrl = databaseUrl.replace(/\/[^/]*$/, `/${OTHER}`);
const server = process.env.TEST_DATABASE_SERVER!;
const children: ChildProcess[] = [];

const restored = { ...process.env, DATABASE_URL: otherUrl, FILES_DIR: path.join(scratch, 'files') };
const heathland = (environment: NodeJS.ProcessEnv, ...args: string[]) =>
  spawnSync(process.execPath, ['--import', 'tsx', 'commands/main.ts', ...args], {
    env: { ...environment, SESSION_SECRET: process.env.TEST_SECRET! },
    encoding: 'utf8',
  });

async function listen(environment: NodeJS.ProcessEnv): Promise<string> {
  const port = await freePort();
  const env = { ...environment, PORT: String(port), NODE_ENV: 'production' as const };
  const child = fork('tests/integration/bare-listener.ts', { execArgv: ['--import', 'tsx'], env });
  children.push(child);
  await new Promise((resolve) => child.once('message', resolve));
  return `http://127.0.0.1:${port}`;
}

afterAll(async () => {
  children.forEach((child) => child.kill('SIGKILL'));
  rmSync(scratch, { recursive: true, force: true });
  await dropDatabase(server, OTHER);
});

test('a restored archive answers with the very bytes, page, contact file and photo of every card', async () => {
  const actor = await newActor(systemClock);
  const addresses: string[] = [];
  for (const file of ['phone-export-3.vcf', 'mail-export-4.vcf']) {
    const taken = await takeContactFile(actor, readFileSync(`tests/fixtures/contacts/${file}`), systemClock);
    if (!('imported' in taken)) throw new Error('one contact expected');
    const address = `backup-${addresses.length}-card`;
    await publishCard(actor, taken.imported.cardId, { baseVersion: 1, address }, systemClock);
    addresses.push(address);
  }
  const before = await listen(process.env);
  let asking = true;
  const readers = Promise.all(
    addresses.map(async (address) => {
      while (asking) await (await fetch(`${before}/c/${address}`)).text();
    }),
  );
  const made = heathland(process.env, 'backup', archive);
  asking = false;
  await readers;
  expect([made.status, made.stderr]).toEqual([0, '']);

  // Other programs read it: tar its members, pg_restore the dump's contents.
  const members = execFileSync('tar', ['--list', '--file', archive], { encoding: 'utf8' });
  expect(members).toContain('database.dump');
  execFileSync('tar', ['--extract', '--file', archive, '--directory', scratch, 'database.dump']);
  const dump = path.join(scratch, 'database.dump');
  expect(execFileSync(`${postgresPrograms()}/pg_restore`, ['--list', dump], { encoding: 'utf8' })).toContain(
    'TABLE DATA public revisions',
  );

  await ensureDatabase(server, OTHER);
  const back = heathland(restored, 'restore', archive);
  expect([back.status, back.stderr]).toEqual([0, '']);
  const after = await listen(restored);
  const bytes = async (host: string, place: string) => {
    const answer = await fetch(`${host}${place}`);
    return { status: answer.status, bytes: Buffer.from(await answer.arrayBuffer()) };
  };
  for (const address of addresses) {
    const html = (await bytes(before, `/c/${address}`)).bytes.toString();
    const photos = html.match(/\/c\/[a-z0-9-]+\/photo-[0-9a-f]{64}\.jpg/g) ?? [];
    for (const place of [`/c/${address}`, `/c/${address}.vcf`, `/c/${address}.vcf?v=4.0`, ...photos]) {
      const [was, is] = [await bytes(before, place), await bytes(after, place)];
      expect([place, is.status]).toEqual([place, 200]);
      expect([place, Buffer.compare(was.bytes, is.bytes)]).toEqual([place, 0]);
    }
  }
}, 90_000);

test('a damaged archive, one that is none, and a full database are refused and nothing changes', () => {
  const damaged = path.join(scratch, 'damaged.tar');
  const bytes = readFileSync(archive);
  bytes[bytes.indexOf('PGDMP') + 2_000]! ^= 0xff;
  writeFileSync(damaged, bytes);
  const none = path.join(scratch, 'none.tar');
  writeFileSync(none, 'not an archive');
  const count = () =>
    execFileSync(`${postgresPrograms()}/psql`, [otherUrl, '-At', '-c', 'SELECT count(*) FROM revisions'], {
      encoding: 'utf8',
    }).trim();
  const before = count();
  for (const [args, said] of [
    [['restore', damaged, '--replace'], 'damaged at database.dump'],
    [['restore', none, '--replace'], 'tar failed'],
    [['restore', path.join(scratch, 'nowhere.tar')], 'There is no file'],
    [['restore', archive], 'holds an installation already'],
    [['backup', archive], 'is there already'],
  ] as const) {
    const done = heathland(restored, ...args);
    expect([said, done.status]).toEqual([said, 1]);
    expect(done.stderr).toContain(said);
  }
  expect([before, count()]).toEqual(['2', '2']);
}, 60_000);
