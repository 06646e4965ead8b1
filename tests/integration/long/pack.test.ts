import { createHash } from 'node:crypto';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { buffer } from 'node:stream/consumers';
import type { Manifest } from '@/core/pack';
import { madeFile, madeParts } from '@/server/db/jobs/made-files';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { LIMITS } from '@/core/limits';
import { files } from '@/server/files';
import { deletePerson } from '@/server/services/cards/deletion';
import { eraseWhatEnded } from '@/server/services/cards/erase';
import { runJob } from '@/server/services/jobs/run-job';
import { askPack, packFiles } from '@/server/services/pieces/pack';
import { madeFileStream, readMadeFile } from '@/server/services/pieces/together';
import { zipToStore } from '@/server/services/pieces/zip-to-store';
import { createRecord } from '@/server/services/records/create-record';
import { JOB_TASKS } from '@/workers/tasks';
import { published } from '../dressed';
import { clock, refused } from '../full-card';
import { withPdf } from '../pdf-tools';
import { newActor, useDatabase } from '../place';
import { zbarimg } from '../zbarimg';

useDatabase();
let actor: Actor;
let people: { recordId: string; cardId: string }[];
const PRIVATE = '+447700900182';
const ALL = ['contact file', 'code', 'signature', 'print'] as const;
const sha256 = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');

beforeAll(async () => {
  actor = { ...(await newActor(clock)), confirmedAt: clock.now() };
  people = [];
  for (const name of ['Ilse Varrow', 'Ilse Varrow', 'Tám O’Dowd', 'Nobody Yet'])
    people.push(
      await createRecord(
        actor,
        {
          name,
          phone: '020 7946 0182',
          email: 'i@tarnhope.example',
          title: 'Rigger',
          forWork: { phone: true, email: true },
        },
        clock,
      ),
    );
  for (const [at, { cardId }] of people.slice(0, 3).entries()) await published(actor, cardId, `packed-${at}`);
});

const packed = async (pattern: string, kinds: readonly (typeof ALL)[number][] = ALL) => {
  const records = people.map(({ recordId }) => recordId);
  const { job } = await askPack(actor, { records, kinds: [...kinds], pattern, version: '3.0' }, clock);
  await runJob({ job, organisation: actor.organisationId }, packFiles, clock);
  return job;
};

test('one ZIP holds what its manifest says, each file by its digest; readers that made none of it read the codes, the print files and the contacts', async () => {
  const job = await packed('{title}/{family}-{given}');
  const { stream, bytes, fileName } = await madeFileStream(actor, job);
  const zip = await buffer(stream);
  expect([zip.length, fileName]).toEqual([bytes, 'cards-of-3-people.zip']);
  const folder = mkdtempSync(path.join(tmpdir(), 'heathland-pack-'));
  try {
    writeFileSync(path.join(folder, 'made.zip'), zip);
    execFileSync('unzip', ['-q', 'made.zip'], { cwd: folder });
    const at = (file: string) => path.join(folder, file);
    const listed = execFileSync('unzip', ['-Z1', 'made.zip'], { cwd: folder, encoding: 'utf8' }).trim().split('\n');
    const manifest = JSON.parse(readFileSync(at('manifest.json'), 'utf8')) as Manifest;
    const files = manifest.people.flatMap((person) => person.files);
    expect([...files.map((file) => file.path), 'manifest.json', 'manifest.csv'].sort()).toEqual(listed.sort());
    // Two of one name are told apart; whoever has no published card is named as left out.
    expect(manifest.people.map(({ person, files: of }) => [person, of[0]!.path])).toEqual([
      ['Ilse Varrow', expect.stringMatching(/^Rigger\/Varrow-Ilse(-2)?\.vcf$/)],
      ['Ilse Varrow', expect.stringMatching(/^Rigger\/Varrow-Ilse(-2)?\.vcf$/)],
      ['Tám O’Dowd', 'Rigger/O’Dowd-Tám.vcf'],
    ]);
    expect(manifest.leftOut).toEqual([{ person: 'Nobody Yet', kind: null, reason: 'No published card.' }]);
    expect(await readMadeFile(actor, job)).toMatchObject({ leftOut: [{ name: 'Nobody Yet' }] });
    for (const { path: file, sha256: sum, bytes: size, proof } of files) {
      const found = readFileSync(at(file));
      expect([file, sha256(found), found.length]).toEqual([file, sum, size]);
      expect(proof.passed && proof.checks.length > 0).toBe(true);
      expect(found.includes(PRIVATE)).toBe(false);
    }
    for (const { person, files: of } of manifest.people) {
      const linkIn = (ending: string) => of.find(({ path: file }) => file.endsWith(ending))!.link;
      const one = (ending: string) => at(of.find(({ path: file }) => file.endsWith(ending))!.path);
      expect(zbarimg(one('-code.png'))).toEqual([linkIn('-code.png')]);
      withPdf(readFileSync(one('-code.pdf')), (told) => expect(told.codes(1, 300)).toEqual([linkIn('-code.png')]));
      withPdf(readFileSync(one('-print.pdf')), (told) => {
        expect(told.faults).toBe('');
        expect(told.text).toContain(person);
        expect([...told.codes(1, 300), ...told.codes(2, 300)]).toEqual([linkIn('-print.pdf')]);
      });
      // Debian's python3-vobject reads the contact.
      const script = 'import sys,vobject;c=vobject.readOne(open(sys.argv[1],encoding="utf-8"));print(c.fn.value)';
      expect(execFileSync('/usr/bin/python3', ['-c', script, one('.vcf')], { encoding: 'utf8' }).trim()).toBe(person);
    }
    // RFC 4180, a row a file.
    expect(readFileSync(at('manifest.csv'), 'utf8').trim().split('\r\n')).toHaveLength(files.length + 1);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});

test('a pattern that cannot be read, somebody else’s people and a password typed long ago are refused; a file goes with whoever is in it', async () => {
  const wanted = { kinds: ['contact file' as const], version: '3.0' as const, records: [people[0]!.recordId] };
  await expect(askPack(actor, { ...wanted, pattern: '{salary}' }, clock)).rejects.toMatchObject(
    refused('PATTERN_UNREADABLE'),
  );
  const stranger = await newActor(clock);
  await expect(askPack(stranger, { ...wanted, pattern: '{name}' }, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  const many = Array.from(
    { length: 26 },
    (_, at) => `00000000-0000-4000-8000-0000000000${String(at).padStart(2, '0')}`,
  );
  await expect(
    askPack({ ...actor, confirmedAt: 0 }, { ...wanted, records: many, pattern: '{name}' }, clock),
  ).rejects.toMatchObject(refused('PASSWORD_STALE'));
  const job = await packed('{name}', ['contact file']);
  const left = () => inTenant(actor.organisationId, async (tx) => [await madeFile(tx, job), await madeParts(tx, job)]);
  const [, parts] = await left();
  expect(parts).toHaveLength(1);
  await deletePerson(actor, people[0]!.recordId, clock);
  await eraseWhatEnded(clock.now() + (LIMITS.deletedDays + 1) * 86_400_000);
  expect(await left()).toEqual([undefined, []]);
  expect(await files().get((parts as { file: string }[])[0]!.file)).toBeNull();
});

test('a large file lies in the store in parts, none of them held longer than the next', async () => {
  const zip = zipToStore(clock.now());
  const noise = Buffer.alloc(3_000_000, 0).map((_, at) => (at * 48_271) % 251);
  for (let at = 0; at < 9; at += 1) await zip.add(`${at}.bin`, Buffer.from(noise), { compress: false });
  const parts = await zip.end();
  expect(parts.length).toBeGreaterThanOrEqual(3);
  expect(parts.reduce((sum, { bytes }) => sum + bytes, 0)).toBeGreaterThan(27_000_000);
  for (const { bytes } of parts) expect(bytes).toBeLessThan(12_000_000);
});

test('the job of a ZIP is known to whoever runs jobs', () => expect(JOB_TASKS['pack-files']).toBe(packFiles));
