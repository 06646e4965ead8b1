import { createHash, createHmac, pbkdf2Sync } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Client } from 'pg';
import { asOwner, dropDatabase } from '../../../commands/cluster/databases';
import { migrationSource } from '../../../migrations';
import { CannotStart } from '@/server/db/schema/cannot-start';
import { closeDb, outsideTenants } from '@/server/db/pool';
import { forgetSecret, migrate } from '@/server/db/schema/migrate';
import { scramVerifier } from '@/server/db/schema/scram';
import { applicationRole, fingerprintOf, settingsProblems } from '@/server/env';
import { databaseTrouble } from '@/server/services/jobs/health';
import { useCommands } from '../heathland';

/*
 * A database as docs/running.md has it made: a role with LOGIN and CREATEROLE that owns it, and nothing more. The server that the tests run
 * on belongs to a superuser, who could do anything.
 */
const server = process.env.TEST_DATABASE_SERVER!;
const NAME = `heathland_ordinary_${process.env.JEST_WORKER_ID}`;
const SECRET = 'a secret of an ordinary installation, which is none';
const NEXT = 'the one that comes after it, which is none either';
const at = (user: string, password: string, database = NAME): string =>
  Object.assign(new URL(server), { username: user, password, pathname: `/${database}` }).href;
const ordinary = at(NAME, 'not a password');
const command = useCommands();
const one = async <T extends object>(url: string, text: string) =>
  asOwner(url, async (client) => (await client.query<T>(text)).rows);

async function drop() {
  await dropDatabase(server, NAME);
  await one(server, `DROP ROLE IF EXISTS ${NAME}, ${NAME}_less`);
}
beforeEach(async () => {
  await drop();
  await one(server, `CREATE ROLE ${NAME} LOGIN CREATEROLE PASSWORD 'not a password'`);
  await one(server, `CREATE DATABASE ${NAME} OWNER ${NAME}`);
});
afterAll(drop);

test('a role that may make roles and owns its database is enough, from the first start to the forgotten secret', async () => {
  const { name, url, password } = applicationRole(ordinary, SECRET);
  // Whatever is said to the server, as whoever reads its log would find it.
  await one(server, `ALTER ROLE ${NAME} SET log_statement = 'all'`);
  const applied = await migrate(ordinary, SECRET, migrationSource);
  expect(applied).toHaveLength((await migrationSource.getMigrations([])).length);
  expect(await migrate(ordinary, SECRET, migrationSource)).toEqual([]);
  const [{ log } = { log: '' }] = await one<{ log: string }>(
    server,
    `SELECT pg_read_file(current_setting('data_directory') || '/../server.log') AS log`,
  );
  expect(log).toContain(`ALTER ROLE ${name} LOGIN PASSWORD 'SCRAM-SHA-256$`);
  expect(log).not.toContain(password);
  // The role of the application signs in with what it derives, and owns and may nothing.
  const [may] = await one(
    url,
    `SELECT rolsuper, rolbypassrls, rolcreaterole FROM pg_roles WHERE rolname = current_user`,
  );
  expect(may).toEqual({ rolsuper: false, rolbypassrls: false, rolcreaterole: false });
  expect(await one(url, `SELECT FROM pg_tables WHERE tableowner = current_user`)).toEqual([]);

  await migrate(ordinary, NEXT, migrationSource, SECRET);
  // A process that has the forgotten secret says so, and its people are told to wait.
  Object.assign(process.env, {
    ...{ DATABASE_URL: ordinary, SESSION_SECRET: SECRET, FILES_DIR: tmpdir(), LOG_LEVEL: 'silent' },
    ...{ BASE_URL: 'http://studio.example', PUBLIC_URL: 'http://cards.example' },
  });
  expect(await databaseTrouble()).toBeNull();
  expect(await forgetSecret(ordinary, fingerprintOf(SECRET))).toBe(true);
  expect(await databaseTrouble()).toMatch(/^the database no longer lets this process in/);
  await expect(outsideTenants((db) => db.raw('SELECT 1'))).rejects.toMatchObject({
    problem: { code: 'DATABASE_UNAVAILABLE' },
  });
  await closeDb();
  await expect(one(url, 'SELECT 1')).rejects.toMatchObject({ code: '28P01' });
});

test('whoever runs Heathland makes a first owner, lists, deletes and brings back, with that role alone; a backup comes back', async () => {
  const scratch = mkdtempSync(path.join(tmpdir(), 'heathland-operator-'));
  const heathland = (...args: string[]) => {
    const env = {
      ...process.env,
      ...{ DATABASE_URL: ordinary, SESSION_SECRET: SECRET },
      ...{ BASE_URL: 'http://studio.example', PUBLIC_URL: 'http://cards.example' },
      FILES_DIR: path.join(scratch, 'files'),
    };
    const done = command(env, ...args);
    return { code: done.status, said: done.stdout + done.stderr };
  };
  try {
    expect(heathland('migrate').said).toMatch(/^Migrated the database: 0001-first-slice, /m);
    expect(heathland('migrate').said).toContain('The database is up to date.');
    const checked = heathland('check');
    for (const line of ['database: PostgreSQL 1', 'clock: the same', 'store of files: written, read and removed'])
      expect(checked.said).toContain(`good   ${line}`);
    // The addresses of these settings are nobody's.
    expect(checked).toMatchObject({
      code: 1,
      said: expect.stringMatching(/^WRONG  BASE_URL: /m),
    });
    const made = heathland(
      'owner',
      'add',
      'Maud@tarnhope.example',
      '--name',
      'Maud Aldercott',
      '--organisation',
      'Tarnhope',
    );
    expect(made).toMatchObject({
      code: 0,
      said: expect.stringMatching(/first password is ([a-z2-9]{4}-){3}[a-z2-9]{4};/),
    });
    const [id] = /[0-9a-f]{8}-[0-9a-f-]{27}/.exec(made.said)!;
    expect(heathland('owner', 'add', 'maud@tarnhope.example', '--name', 'Maud')).toMatchObject({
      ...{ code: 1, said: expect.stringContaining('There is an account with this e-mail address') },
    });
    expect(heathland('owner', 'add', 'no-address', '--name', 'Maud').code).toBe(1);
    expect(heathland('owner', 'add', 'a@b.example', '--name', 'A', '--country', 'XX').said).toContain('is no country');
    expect(heathland('user', 'list').said).toBe('maud@tarnhope.example\towner\t-\t-\tTarnhope\n');
    const [before] = await one<{ hash: string }>(ordinary, 'SELECT password_hash AS hash FROM users');
    expect(heathland('owner', 'reset', 'maud@tarnhope.example').said).toContain('The new password is ');
    expect(await one(ordinary, 'SELECT password_hash AS hash FROM users')).not.toEqual([before]);
    expect(heathland('owner', 'reset', 'nobody@tarnhope.example')).toMatchObject({ code: 1 });
    expect(heathland('organisation', 'delete', id!).said).toMatch(/Tarnhope is deleted: .* erased after 30 days/);
    expect(heathland('organisation', 'list').said).toMatch(new RegExp(`^${id}\tTarnhope\t0 cards\tdeleted 20`));
    expect(heathland('organisation', 'delete', id!)).toMatchObject({ code: 1 });
    expect(heathland('organisation', 'bring-back', id!).said).toBe('Tarnhope is back.\n');
    const acts = await one<{ act: string }>(ordinary, 'SELECT act FROM audit_trail WHERE user_id IS NULL ORDER BY id');
    expect(acts.map(({ act }) => act)).toEqual([
      ...['member.password-set', 'second-factor.reset', 'organisation.deleted', 'organisation.brought-back'],
    ]);
    const archive = path.join(scratch, 'heath.tar');
    expect(heathland('backup', archive)).toMatchObject({ code: 0 });
    await one(ordinary, `UPDATE organisations SET name = 'Another'`);
    // What runs would remember what was there before.
    const running = new Client({ connectionString: applicationRole(ordinary, SECRET).url });
    await running.connect();
    expect(heathland('restore', archive, '--replace')).toMatchObject({
      ...{ code: 1, said: expect.stringContaining('Heathland runs on this database: 1 of its connections are open.') },
    });
    expect(heathland('organisation', 'list').said).toBe(`${id}\tAnother\t0 cards\n`);
    await running.end();
    expect(heathland('restore', archive, '--replace')).toMatchObject({ code: 0 });
    expect(heathland('organisation', 'list').said).toBe(`${id}\tTarnhope\t0 cards\n`);
  } finally {
    rmSync(scratch, { recursive: true, force: true });
  }
});

test('what cannot be started on is told in one sentence that says what to do', async () => {
  const refused = async (url: string) => {
    const error = await migrate(url, SECRET, migrationSource).then(
      () => null,
      (thrown: unknown) => thrown,
    );
    expect(error).toBeInstanceOf(CannotStart);
    expect((error as Error).message).not.toMatch(/not a password|\n/);
    return (error as Error).message;
  };
  expect(await refused(at(NAME, 'wrong'))).toMatch(/refuses the password/);
  expect(await refused(at(NAME, 'not a password', `${NAME}_nowhere`))).toMatch(/no database of the name/);
  await one(server, `CREATE ROLE ${NAME}_less LOGIN PASSWORD 'not a password'`);
  expect(await refused(at(`${NAME}_less`, 'not a password'))).toMatch(/may not make roles: ALTER ROLE … CREATEROLE/);
  await one(server, `ALTER ROLE ${NAME}_less CREATEROLE`);
  expect(await refused(at(`${NAME}_less`, 'not a password'))).toMatch(/must own: ALTER DATABASE … OWNER TO/);
  await dropDatabase(server, NAME);
  await one(
    server,
    `CREATE DATABASE ${NAME} OWNER ${NAME} ENCODING 'SQL_ASCII' LC_COLLATE 'C' LC_CTYPE 'C' TEMPLATE template0`,
  );
  expect(await refused(ordinary)).toMatch(/encoded as SQL_ASCII; make one with ENCODING 'UTF8'/);
  await dropDatabase(server, NAME);
  await one(server, `CREATE DATABASE ${NAME} OWNER ${NAME}`);
  // A release that knows one migration more was here.
  await migrate(ordinary, SECRET, migrationSource);
  await one(ordinary, `INSERT INTO knex_migrations (name, batch, migration_time) VALUES ('9999-later', 2, now())`);
  expect(await refused(ordinary)).toMatch(/A newer release .* \(9999-later\)/);
});

test('a password’s verifier is what the protocol derives of it (RFC 5802 3; RFC 7677 3 has this exchange)', () => {
  // RFC 7677 3: user "user", password "pencil", salt and nonces of its example.
  const salt = Buffer.from('W22ZaJ0SNY7soEsUEjb6gQ==', 'base64');
  const [, stored, serverKey] = /^SCRAM-SHA-256\$4096:W22ZaJ0SNY7soEsUEjb6gQ==\$([^:]+):(.+)$/.exec(
    scramVerifier('pencil', salt),
  )!;
  const message =
    'n=user,r=rOprNGfwEbeRWgbNEkqO,r=rOprNGfwEbeRWgbNEkqO%hvYDpWUa2RaTCAfuxFIlj)hNlF$k0,s=W22ZaJ0SNY7soEsUEjb6gQ==,i=4096,' +
    'c=biws,r=rOprNGfwEbeRWgbNEkqO%hvYDpWUa2RaTCAfuxFIlj)hNlF$k0';
  const sign = (key: Buffer) => createHmac('sha256', key).update(message).digest();
  expect(sign(Buffer.from(serverKey!, 'base64')).toString('base64')).toBe(
    '6rriTRBi23WpRR/wtup+mMhUZUn/dB5nLTJRsjl95G4=',
  );
  const proof = Buffer.from('dHzbZapWIk4jUhN+Ute9ytag9zjfMHgsqmmiz7AndVQ=', 'base64');
  const clientKey = createHmac('sha256', pbkdf2Sync('pencil', salt, 4_096, 32, 'sha256'))
    .update('Client Key')
    .digest();
  const mask = sign(Buffer.from(stored!, 'base64'));
  expect(proof.map((byte, n) => byte ^ mask[n]!)).toEqual(clientKey);
  expect(createHash('sha256').update(clientKey).digest('base64')).toBe(stored);
});

test('settings that are missing, empty, wrong or contradict each other are told together', () => {
  const good = {
    DATABASE_URL: 'postgres://a@db.example/heathland',
    BASE_URL: 'https://studio.example',
    PUBLIC_URL: 'https://c.example/',
    SESSION_SECRET: SECRET,
    FILES_DIR: '/srv/heathland',
  };
  const told = (over: Record<string, string>) => settingsProblems({ ...good, ...over });
  expect(told({})).toEqual([]);
  // What is empty is not there, and takes its default where there is one.
  expect(told({ PORT: '', METRICS_PORT: ' ' })).toEqual([]);
  expect(told({ BASE_URL: '', SESSION_SECRET: '' })).toEqual(['BASE_URL is missing.', 'SESSION_SECRET is missing.']);
  const wrong: [Record<string, string>, RegExp][] = [
    [{ DATABASE_URL: 'mysql://x/y' }, /^DATABASE_URL cannot be used/],
    [{ BASE_URL: 'studio.example' }, /^BASE_URL cannot be used/],
    [{ PUBLIC_URL: 'https://c.example/cards' }, /^PUBLIC_URL cannot be used: a host alone is needed/],
    [{ PORT: 'http' }, /^PORT cannot be used/],
    [{ PORT: '70000' }, /^PORT cannot be used/],
    [{ SESSION_SECRET: 'short' }, /^SESSION_SECRET cannot be used/],
    [{ FILES_DIR: 'files' }, /^FILES_DIR cannot be used: an absolute path is needed/],
    [{ FILES_DIR: '' }, /^FILES_DIR is missing/],
    [
      { S3_ENDPOINT: 'https://s3.example', FILES_DIR: '', S3_BUCKET: 'a', S3_ACCESS_KEY: 'b' },
      /^S3_SECRET_KEY is missing/,
    ],
    [{ S3_BUCKET: 'a' }, /^S3_BUCKET is given without S3_ENDPOINT/],
    [{ SESSION_SECRET_BEFORE: SECRET }, /^SESSION_SECRET_BEFORE is the same/],
    [{ PORT: '4600', METRICS_PORT: '4600' }, /^METRICS_PORT is the same as PORT/],
    [{ CARD_HOSTS: 'c.example=1b671a64-40d5-491e-99b0-da01ff1f3341' }, /^CARD_HOSTS names the host of/],
    [{ CARD_HOSTS: 'cards.tarnhope.example' }, /^CARD_HOSTS cannot be used/],
    [{ TRUSTED_PROXIES: '-1' }, /^TRUSTED_PROXIES cannot be used/],
  ];
  for (const [over, sentence] of wrong) expect([over, told(over)]).toEqual([over, [expect.stringMatching(sentence)]]);
  expect(told({ SESSION_SECRET: 'short' }).join()).not.toContain('short.');
});
