import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import S3rver from 's3rver';
import sharp from 'sharp';
import { startApplication, type Application } from '../../../commands/application';
import { newcomer } from '../../../commands/bench/account';
import { freePort } from '../../../commands/cluster/ports';
import { databaseUrl, useDatabase } from '../place';

/*
 * Two applications of a release, as they run on two machines: each with a folder of its own for what is temporary, and nothing in common but
 * PostgreSQL and a store that speaks S3, which is s3rver's.
 */
useDatabase();
const scratch = mkdtempSync(path.join(tmpdir(), 'heathland-machines-'));
const running: Application[] = [];
let store: S3rver;
const machines: string[] = [];

beforeAll(async () => {
  const port = await freePort();
  store = new S3rver({
    ...{ port, address: '127.0.0.1', silent: true, directory: path.join(scratch, 's3') },
    configureBuckets: [{ name: 'heath', configs: [] }],
  });
  await store.run();
  const ports = [await freePort(), await freePort()];
  const address = `http://127.0.0.1:${ports[0]}`;
  for (const [at, own] of ports.entries()) {
    const temporary = mkdtempSync(path.join(scratch, `machine-${at}-`));
    running.push(
      await startApplication(
        {
          ...{ DATABASE_URL: databaseUrl, SESSION_SECRET: process.env.TEST_SECRET!, FILES_DIR: '', LOG_LEVEL: 'error' },
          ...{ BASE_URL: address, PUBLIC_URL: address, PORT: String(own), TMPDIR: temporary, HEATHLAND_PROGRAMS: '' },
          ...{ S3_ENDPOINT: `http://127.0.0.1:${port}`, S3_BUCKET: 'heath' },
          ...{ S3_ACCESS_KEY: 'S3RVER', S3_SECRET_KEY: 'S3RVER' },
        },
        { dev: false },
      ),
    );
    machines.push(`http://127.0.0.1:${own}`);
  }
}, 300_000);
afterAll(async () => {
  await Promise.all(running.map((application) => application.stop()));
  await store.close();
  rmSync(scratch, { recursive: true, force: true });
});

test('what is made on one machine is shown by the other, pictures too, and goes on when the first one is gone', async () => {
  const [one, other] = machines as [string, string];
  const odile = await newcomer(one, 'Odile');
  const picture = await sharp({ create: { width: 600, height: 600, channels: 3, background: '#7a5' } })
    .jpeg()
    .toBuffer();
  const { picture: photo } = await odile.ask<{ picture: string }>('POST', '/api/photos', picture);
  const person = { name: 'Odile Brandreth', phone: '020 7946 0182', email: '', photo };
  const { cardId } = await odile.ask<{ cardId: string }>('POST', '/api/records', person);
  await odile.ask('POST', `/api/cards/${cardId}/publish`, { baseVersion: 1, address: 'odile' });

  const page = await (await fetch(`${other}/c/odile`)).text();
  expect(page).toContain('Odile Brandreth');
  const [photoUrl] = /\/c\/odile\/photo-[0-9a-f]{64}\.jpg/.exec(page) ?? [];
  const [from, to] = await Promise.all(
    machines.map(async (machine) => Buffer.from(await (await fetch(`${machine}${photoUrl}`)).arrayBuffer())),
  );
  expect(to!.equals(from!)).toBe(true);
  expect(await sharp(to).metadata()).toMatchObject({ format: 'jpeg' });
  // A session of one is one of the other, and an edit there shows here at once.
  const people = await fetch(`${other}/people`, { headers: odile.session });
  expect([people.status, (await people.text()).includes('Odile Brandreth')]).toEqual([200, true]);

  running[0]!.child.kill('SIGKILL');
  await running.shift()!.ended;
  const file = await fetch(`${other}/c/odile.vcf`);
  expect(await file.text()).toContain('PHOTO');
  expect((await fetch(`${other}/people`, { headers: odile.session })).status).toBe(200);
  // What lies on a machine itself is temporary.
  const left = readdirSync(scratch, { recursive: true, withFileTypes: true }).filter(
    (entry) => entry.isFile() && !entry.parentPath.startsWith(path.join(scratch, 's3')),
  );
  expect(left.map(({ name }) => name)).toEqual([]);
});
