import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { closeCompute } from '@/server/compute';
import type { Actor } from '@/server/services/accounts/actor';
import { setState } from '@/server/services/cards/card-state';
import { openCard } from '@/server/services/cards/open-card';
import { askDesigner, endDesigner, packageFile, readPackage } from '@/server/services/pieces/designer';
import { makePiece, openPiece, savePiece } from '@/server/services/pieces/print';
import { publishCard } from '@/server/services/publishing/publish-card';
import { createRecord } from '@/server/services/records/create-record';
import { clock, refused } from './full-card';
import { withPdf } from './pdf-tools';
import { newActor, useDatabase } from './place';

useDatabase();
afterAll(closeCompute);
let actor: Actor;
let cardId: string;
let id: string;

beforeAll(async () => {
  actor = await newActor(clock);
  const person = { name: 'Ilse Varrow', phone: '020 7946 0182', email: 'ilse.private@heath.example' };
  ({ cardId } = await createRecord(actor, person, clock));
  const { version } = await openCard(actor, cardId);
  await publishCard(actor, cardId, { baseVersion: version, address: 'for-a-designer' }, clock);
  ({ id } = await makePiece(actor, { cardId, placement: 'Card of autumn' }, clock));
});

const tokenOf = (url: string) => url.split('/').at(-1)!;
const days = (count: number) => ({ now: () => clock.now() + count * 86_400_000 });

/** The files of a ZIP as Debian's unzip takes them out. */
function unpacked(bytes: Buffer): (name: string) => Buffer {
  const folder = mkdtempSync(path.join(tmpdir(), 'heathland-package-'));
  writeFileSync(path.join(folder, 'made.zip'), bytes);
  expect(spawnSync('unzip', ['-q', 'made.zip'], { cwd: folder }).status).toBe(0);
  return (name) => readFileSync(path.join(folder, name));
}

test('a designer fetches the code as vectors, and texts, colours and measures: what is ticked for paper and nothing else', async () => {
  const { link, piece } = await openPiece(actor, id, clock);
  await savePiece(actor, id, { ...piece, size: '90x50', sentence: 'Scan and save' }, clock);
  const { url } = await askDesigner(actor, id, 7, clock);
  expect(await readPackage(tokenOf(url), clock)).toMatchObject({ name: 'Ilse Varrow', placement: 'Card of autumn' });
  const { bytes, fileName } = await packageFile(tokenOf(url), clock);
  expect(fileName).toBe('ilse-varrow-for-print.zip');
  const file = unpacked(bytes);
  const texts = file('texts.txt').toString();
  expect(texts).toContain('Ilse Varrow');
  expect(texts).toMatch(/20\s7946\s0182/);
  expect(texts).toContain('Scan and save');
  // An address of their own is not ticked for paper.
  expect(texts).not.toContain('ilse.private');
  const measures = file('measures.txt').toString();
  expect(measures).toContain('90 mm wide, 50 mm high');
  expect(measures).toContain('96 mm by 56 mm in all');
  expect(file('colours.txt').toString()).toMatch(/band: #[0-9A-F]{6} \(sRGB\)/i);
  // The code is as wide as the measures say, and zbar reads it from the PDF.
  const wide = Number(/^Code: ([\d.]+) mm wide/m.exec(measures)![1]);
  expect(Number(/ width="([\d.]+)mm"/.exec(file('code.svg').toString())![1])).toBeCloseTo(wide, 1);
  withPdf(file('code.pdf'), ({ boxes, codes }) => {
    const [left, , right] = boxes(1).MediaBox as [number, number, number];
    expect(right - left).toBeCloseTo(wide, 1);
    expect(codes(1)).toEqual([link.toUpperCase()]);
  });
  expect((await openPiece(actor, id, clock)).links).toMatchObject([{ fetched: 1, over: false }]);
});

test('a link ends on its day, at a press, or while the card rests; a wrong one opens nothing, and no more are made than anybody follows', async () => {
  const { url, links } = await askDesigner(actor, id, 7, days(0.1));
  const token = tokenOf(url);
  await expect(packageFile(token, days(8))).rejects.toMatchObject(refused('LINK_ENDED'));
  // One bit off, whatever letter the token ends in.
  const other = `${token.slice(0, -1)}${token.endsWith('A') ? 'B' : 'A'}`;
  await expect(packageFile(other, clock)).rejects.toMatchObject(refused('LINK_ENDED'));
  await setState(actor, cardId, { state: 'resting', notice: '', instead: null }, clock);
  await expect(readPackage(token, clock)).rejects.toMatchObject(refused('LINK_ENDED'));
  await setState(actor, cardId, { state: 'published', notice: '', instead: null }, clock);
  await readPackage(token, clock);
  await endDesigner(actor, id, links[0]!.id, clock);
  await expect(packageFile(token, clock)).rejects.toMatchObject(refused('LINK_ENDED'));
  await expect(askDesigner(actor, id, 61, clock)).rejects.toMatchObject(refused('INPUT'));
  for (let at = 0; at < 19; at += 1) await askDesigner(actor, id, 1, clock);
  await expect(askDesigner(actor, id, 1, clock)).rejects.toMatchObject(refused('TOO_MANY_LINKS'));
  // Those that ended a month ago are told of no more.
  expect((await askDesigner(actor, id, 1, days(40))).links).toHaveLength(1);
});
