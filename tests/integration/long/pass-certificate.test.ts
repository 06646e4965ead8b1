import { execFileSync } from 'node:child_process';
import { copyFileSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { wordingOf } from '@/core/errors';
import { closeCompute } from '@/server/compute';
import { serialNumber } from '@/server/compute/tasks/pass/authority';
import type { Actor } from '@/server/services/accounts/actor';
import { openCard } from '@/server/services/cards/open-card';
import { openPass } from '@/server/services/pieces/pass';
import { addPiece } from '@/server/services/pieces/parts';
import { createRecord } from '@/server/services/records/create-record';
import { publishCard } from '@/server/services/publishing/publish-card';
import { newActor, useDatabase } from '../place';

/** An authority and certificates made by Debian's openssl, as a real one gives them out. */
const folder = mkdtempSync(path.join(tmpdir(), 'heathland-own-'));
const at = (name: string) => path.join(folder, name);
const openssl = (...args: string[]) => execFileSync('openssl', args, { cwd: folder, stdio: 'pipe' });
Object.assign(process.env, {
  PASS_CERTIFICATE: at('own.pem'),
  PASS_CERTIFICATE_PASSWORD: 'opens the key',
  PASS_AUTHORITY: at('authority.pem'),
});
const CLOSED = ['-passout', 'pass:opens the key'];
const REQUEST = ['req', '-newkey', 'rsa:2048', '-keyout'];

/** A certificate for passes, its key closed, signed by an authority. */
function certificate(
  name: string,
  { subject, days, by = 'authority' }: { subject: string; days: string; by?: string },
) {
  openssl(...REQUEST, `${name}.key`, '-out', `${name}.csr`, '-subj', subject, ...CLOSED);
  openssl(
    'x509',
    '-req',
    '-in',
    `${name}.csr`,
    '-CA',
    `${by}.pem`,
    '-CAkey',
    `${by}.key`,
    '-days',
    days,
    '-out',
    `${name}.crt`,
  );
  writeFileSync(at(`${name}.pem`), readFileSync(at(`${name}.crt`), 'utf8') + readFileSync(at(`${name}.key`), 'utf8'));
}

useDatabase();
afterAll(() => {
  closeCompute();
  rmSync(folder, { recursive: true, force: true });
});
const now = { now: () => Date.now() };
const SUBJECT = '/UID=pass.example.tarnhope/OU=T4RNH0PE00/CN=Passes of Tarnhope';
let actor: Actor;
let id: string;

beforeAll(async () => {
  for (const each of ['authority', 'other'])
    openssl(
      'req',
      '-x509',
      '-newkey',
      'rsa:2048',
      '-nodes',
      '-keyout',
      `${each}.key`,
      '-out',
      `${each}.pem`,
      '-subj',
      `/CN=${each}`,
    );
  certificate('good', { subject: SUBJECT, days: '90' });
  certificate('soon', { subject: SUBJECT, days: '10' });
  certificate('nameless', { subject: '/CN=For a web site', days: '90' });
  certificate('foreign', { subject: SUBJECT, days: '90', by: 'other' });
  actor = await newActor(now);
  const { cardId } = await createRecord(actor, { name: 'Ilse Varrow', phone: '020 7946 0182', email: '' }, now);
  const { version } = await openCard(actor, cardId);
  await publishCard(actor, cardId, { baseVersion: version, address: 'own-pass' }, now);
  ({ id } = await addPiece(actor, { cardId, placement: 'My phone', channel: 'pass' }, now));
});

test('an own certificate signs for the kind and team that it names; one that ends soon is told', async () => {
  copyFileSync(at('good.pem'), at('own.pem'));
  const shown = await openPass(actor, id, now);
  expect([shown.standIn, shown.proof.passed]).toEqual([false, true]);
  const signed = ({ proof }: typeof shown) => proof.checks.find(({ name }) => name === 'signature')!;
  expect(signed(shown).note).toBeUndefined();
  copyFileSync(at('soon.pem'), at('own.pem'));
  expect(signed(await openPass(actor, id, now))).toMatchObject({ passed: true, note: true });
});

test('one that has ended, is for something else, of another authority, with another key, or no certificate at all signs nothing, and the reason names no file', async () => {
  const fault = async () => {
    const refusal = await openPass(actor, id, now).catch((error: unknown) => error as { problem: never });
    const { problem } = refusal as { problem: { code: string; fault: string } };
    expect(wordingOf(problem as never)).not.toContain(folder);
    return [problem.code, problem.fault];
  };
  const later = { now: () => Date.now() + 100 * 86_400_000 };
  copyFileSync(at('good.pem'), at('own.pem'));
  await expect(openPass(actor, id, later)).rejects.toMatchObject({
    problem: { code: 'PASS_UNSIGNED', fault: 'ended' },
  });
  copyFileSync(at('nameless.pem'), at('own.pem'));
  expect(await fault()).toEqual(['PASS_UNSIGNED', 'names nothing']);
  copyFileSync(at('foreign.pem'), at('own.pem'));
  expect(await fault()).toEqual(['PASS_UNSIGNED', 'unreadable']);
  writeFileSync(at('own.pem'), readFileSync(at('good.crt'), 'utf8') + readFileSync(at('soon.key'), 'utf8'));
  expect(await fault()).toEqual(['PASS_UNSIGNED', 'unreadable']);
  writeFileSync(at('own.pem'), 'no certificate');
  expect(await fault()).toEqual(['PASS_UNSIGNED', 'unreadable']);
  rmSync(at('own.pem'));
  expect(await fault()).toEqual(['PASS_UNSIGNED', 'unreadable']);
});

test('a serial number is a positive integer without padding, whatever bytes chance gave (X.690, 8.3.2)', () => {
  for (const start of [
    [0, 0],
    [0, 127],
    [0, 255],
    [127, 0],
    [128, 0],
    [255, 128],
  ]) {
    const [first, ...rest] = Buffer.from(serialNumber(Uint8Array.from([...start, 7])), 'hex');
    expect(first).toBeGreaterThan(0);
    expect(first).toBeLessThan(128);
    expect(rest).toEqual([start[1], 7]);
  }
});
