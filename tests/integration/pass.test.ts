import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import knex from 'knex';
import { provePass } from '@/core/proof/pass';
import { closeCompute } from '@/server/compute';
import { readPass } from '@/server/compute/tasks/pass/pass';
import type { Actor } from '@/server/services/accounts/actor';
import { setState } from '@/server/services/cards/card-state';
import { openCard } from '@/server/services/cards/open-card';
import { answerPhone, type PhoneRequest } from '@/server/services/pieces/answer-phone';
import { openPass, passFile, sendPass } from '@/server/services/pieces/pass';
import { addPiece } from '@/server/services/pieces/parts';
import { createRecord } from '@/server/services/records/create-record';
import { publishCard } from '@/server/services/publishing/publish-card';
import { clock, refused } from './full-card';
import { databaseUrl, newActor, useDatabase } from './place';

useDatabase();
afterAll(closeCompute);
let actor: Actor;
let id: string;
let cardId: string;
let version: number;

beforeAll(async () => {
  actor = await newActor(clock);
  ({ cardId } = await createRecord(
    actor,
    { name: 'Ilse Varrow', phone: '020 7946 0182', email: 'ilse@tarnhope.example' },
    clock,
  ));
  ({ version } = await openCard(actor, cardId));
  await publishCard(actor, cardId, { baseVersion: version, address: 'in-a-phone' }, clock);
  ({ id } = await addPiece(actor, { cardId, placement: 'My phone', channel: 'pass' }, clock));
});

/** A pass unpacked by Debian's unzip, and what openssl and sha1sum say of it. */
function opened(bytes: Buffer) {
  const folder = mkdtempSync(path.join(tmpdir(), 'heathland-pass-'));
  try {
    writeFileSync(path.join(folder, 'card.pkpass'), bytes);
    const run = (program: string, args: string[]) =>
      execFileSync(program, args, { cwd: folder, encoding: 'utf8', stdio: 'pipe' });
    run('unzip', ['-q', 'card.pkpass', '-d', 'in']);
    const manifest = JSON.parse(readFileSync(path.join(folder, 'in/manifest.json'), 'utf8')) as Record<string, string>;
    const names = run('ls', ['in']).trim().split('\n');
    const sums = Object.fromEntries(
      run(
        'sha1sum',
        names.map((name) => `in/${name}`),
      )
        .trim()
        .split('\n')
        .map((line) => [line.slice(45), line.slice(0, 40)]),
    );
    const told = run('openssl', ['cms', '-in', 'in/signature', '-inform', 'DER', '-cmsout', '-print']);
    // The certificates that the signature carries; the last one is the authority's.
    const certificates = run('openssl', ['pkcs7', '-in', 'in/signature', '-inform', 'DER', '-print_certs']).match(
      /-----BEGIN[\s\S]+?-----END CERTIFICATE-----/g,
    )!;
    writeFileSync(path.join(folder, 'authority.pem'), certificates.at(-1)!);
    const at = String(Math.floor(clock.now() / 1_000) + 60);
    const verify = (content: string) =>
      run('openssl', [
        ...['cms', '-verify', '-in', 'in/signature', '-inform', 'DER', '-content', content, '-out', '/dev/null'],
        ...['-CAfile', 'authority.pem', '-purpose', 'any', '-attime', at],
      ]);
    verify('in/manifest.json');
    expect(() => verify('in/pass.json')).toThrow();
    return { manifest, names, sums, told, pass: JSON.parse(readFileSync(path.join(folder, 'in/pass.json'), 'utf8')) };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

test('Debian’s openssl, sha1sum and unzip take the pass: signed with time and authority, every file but manifest and signature listed by its digest', async () => {
  const { bytes, fileName, type } = await passFile(actor, id, clock);
  expect([fileName, type]).toEqual(['ilse-varrow.pkpass', 'application/vnd.apple.pkpass']);
  const { manifest, names, sums, told, pass } = opened(bytes);
  expect(Object.keys(manifest).sort()).toEqual(
    names.filter((name) => name !== 'manifest.json' && name !== 'signature').sort(),
  );
  for (const [name, sum] of Object.entries(manifest)) expect([name, sums[name]]).toEqual([name, sum]);
  expect(names).toEqual(expect.arrayContaining(['icon.png', 'icon@2x.png', 'icon@3x.png', 'pass.json']));
  expect(told).toMatch(/signingTime/);
  expect(pass).toMatchObject({
    formatVersion: 1,
    passTypeIdentifier: 'pass.example.heathland.card',
    teamIdentifier: 'STANDIN000',
  });
  const { link } = await openPass(actor, id, clock);
  expect(pass.barcodes[0].message).toBe(link);
  expect(JSON.stringify(pass.generic)).toContain('Ilse Varrow');
});

test('the stand-in authority is made once, its key closed by the secret; one that has ended is made anew', async () => {
  const db = knex({ client: 'pg', connection: databaseUrl });
  try {
    const rows = () => db('pass_authority').select('certificate', 'key');
    const [first] = await rows();
    expect(first!.key).toContain('ENCRYPTED PRIVATE KEY');
    await passFile(actor, id, clock);
    expect(await rows()).toEqual([first]);
    const later = { now: () => clock.now() + 400 * 86_400_000 };
    expect((await openPass(actor, id, later)).proof.passed).toBe(true);
    expect(await rows()).not.toEqual([first]);
    // A key of another installation's secret opens nothing, and is replaced.
    await db('pass_authority').update({ key: first!.key.replace(/[A-M]/g, 'Q') });
    expect((await openPass(actor, id, clock)).proof.passed).toBe(true);
  } finally {
    await db.destroy();
  }
});

const asked = (method: PhoneRequest['method'], where: string, headers: Record<string, string> = {}) =>
  answerPhone({ method, path: where.split('/').map(decodeURIComponent), header: (name) => headers[name] ?? '' }, clock);

test('a phone fetches the pass by its address and what it is by now by its token; without the token there is nothing to find out', async () => {
  const { address } = await openPass(actor, id, clock);
  const [, code, token] = /\/api\/pass\/(\w+)\/([\w-]+)\.pkpass$/.exec(address)!;
  const first = await asked('GET', `${code}/${token}.pkpass`);
  expect([first.status, first.headers['Content-Type']]).toEqual([200, 'application/vnd.apple.pkpass']);
  const pass = readPass(first.body!).pass;
  expect([pass.authenticationToken, pass.webServiceURL]).toEqual([token, 'http://studio.example/api/pass']);
  const now = `v1/passes/${String(pass.passTypeIdentifier)}/${String(pass.serialNumber)}`;
  const authorization = `ApplePass ${token}`;
  const again = await asked('GET', now, { authorization, 'if-none-match': first.headers.ETag! });
  expect(again.status).toBe(304);
  const device = `v1/devices/abc/registrations/${String(pass.passTypeIdentifier)}`;
  expect((await asked('POST', `${device}/${code}`, { authorization })).status).toBe(200);
  expect((await asked('DELETE', `${device}/${code}`, { authorization })).status).toBe(200);
  expect((await asked('GET', device)).status).toBe(204);
  expect((await asked('POST', 'v1/log')).status).toBe(200);

  const wrong = 'x'.repeat(32);
  for (const [where, headers] of [
    [`${code}/${wrong}.pkpass`, {}],
    [`00000000/${token}.pkpass`, {}],
    [`${'%2e'.repeat(9)}/${token}.pkpass`, {}],
    [now, {}],
    [now, { authorization: `ApplePass ${wrong}` }],
    [now.replace(code!, 'AAAAAAAA'), { authorization }],
  ] as [string, Record<string, string>][])
    expect([where, (await asked('GET', where, headers)).status]).toEqual([where, 401]);
  expect((await asked('POST', `${device}/${code}`)).status).toBe(401);
  for (const where of ['v1', 'v1/passes', `${code}`, `v2/passes/x/${code}`])
    await expect(asked('GET', where)).rejects.toMatchObject(refused('NOT_FOUND'));

  // What is at rest says so on the phone, shows no code, and comes back.
  await setState(actor, cardId, { state: 'resting', notice: '', instead: null }, clock);
  const resting = readPass((await asked('GET', now, { authorization })).body!).pass;
  expect([resting.voided, resting.barcodes]).toEqual([true, undefined]);
  await setState(actor, cardId, { state: 'published', notice: '', instead: null }, clock);
  const back = await asked('GET', now, { authorization });
  expect([back.status, back.headers.ETag === first.headers.ETag]).toEqual([200, false]);
});

test('one changed letter, another certificate or a planted value fails the proof', async () => {
  const { bytes } = await passFile(actor, id, clock);
  const sound = readPass(bytes);
  const { composition } = (await openCard(actor, cardId)).revision!;
  const { link } = await openPass(actor, id, clock);
  const held = { composition, withheld: [], link, passType: '', team: '', voided: false, now: clock.now(), bytes: 1 };
  const failing = (read: typeof sound, more: Partial<typeof held> = {}) =>
    provePass(read, { ...held, ...more })
      .checks.filter(({ passed }) => !passed)
      .map(({ name }) => name);
  expect(failing(sound)).toEqual([]);
  expect(failing({ ...sound, wrong: ['pass.json'] })).toEqual(['files']);
  expect(failing({ ...sound, names: ['pass.json'] })).toEqual(['files']);
  expect(failing({ ...sound, signature: { ...sound.signature, fits: false } })).toEqual(['signature']);
  expect(failing({ ...sound, signature: { ...sound.signature, passType: 'pass.example.other' } })).toEqual([
    'signature',
  ]);
  expect(failing(sound, { now: clock.now() + 500 * 86_400_000 })).toEqual(['signature']);
  expect(failing(sound, { link: 'http://cards.example/h/OTHER' })).toEqual(['code']);
  expect(failing(sound, { withheld: ['Varrow'] } as never)).toEqual(['unticked lines']);
  const generic = { primaryFields: [{ key: 'name', label: '', value: 'Ilse Varro' }] };
  expect(failing({ ...sound, pass: { ...sound.pass, generic } })).toContain('ticked lines');
});

test('it goes by mail to one’s own confirmed address alone', async () => {
  await expect(sendPass(actor, id, clock)).rejects.toMatchObject(refused('MAIL_CLOSED'));
});
