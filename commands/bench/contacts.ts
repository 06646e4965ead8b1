import { spawn } from 'node:child_process';
import { rmSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import ICAL from 'ical.js';
import { createContactReader, VERSIONS, writeRead, type ContactCard } from '../../src/core/vcard';
import { HOME } from '../place';
import type { Figure } from './figure';
import { growthOfTime, mutatedFiles } from './mutations';
import { variedContacts } from './varied-contacts';

const CONTACTS = 50_000;
const TURNS = 5;
const CHUNK = 65_536;

const median = (values: number[]): number => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)]!;
const timed = (work: () => unknown): number => {
  const began = performance.now();
  work();
  return performance.now() - began;
};

/** Contact files: reading beside ical.js on the same text, memory of a stream, writing, broken files, growth of time. */
export async function measureContacts(): Promise<Figure[]> {
  const text = [...variedContacts(CONTACTS)].join('');
  const bytes = Buffer.from(text);
  const file = path.join(HOME, 'bench-contacts.vcf');
  writeFileSync(file, bytes);
  const memory = await memoryOfStream(file);
  rmSync(file);
  const size = `${CONTACTS.toLocaleString('en-GB')} contacts, ${(bytes.length / 1e6).toFixed(1)} MB`;
  const { ours, theirs } = reading(text, bytes);
  const writing = writingRates(bytes);
  const { slowest, crashes, files, records } = mutatedFiles(100_000);
  const growth = growthOfTime();
  return [
    {
      name: 'reading contacts, time as a share of ical.js',
      value: median(ours.map((time, at) => time / theirs[at]!)),
      unit: 'times',
      must: { atMost: 1 },
      beside: `median of ${TURNS} turns on the same ${size}: ours from bytes in ${(median(ours) / 1e3).toFixed(2)} s, ical.js from text in ${(median(theirs) / 1e3).toFixed(2)} s, both to jCard’s parts`,
    },
    {
      name: 'reading contacts as a stream, memory above idle',
      value: memory.above,
      unit: 'MB',
      must: { atMost: 150 },
      beside: `highest resident memory of a process of its own while it makes records of ${memory.count.toLocaleString('en-GB')} contacts, idle at ${memory.idle.toFixed(0)} MB`,
    },
    {
      name: 'writing contacts, the slowest version',
      value: Math.min(...writing.map(({ rate }) => rate)),
      unit: 'MB/s',
      must: { atLeast: 10 },
      beside: writing.map(({ version, rate }) => `${version}: ${rate.toFixed(1)} MB/s`).join(', '),
    },
    {
      name: 'mutated contact files, crashes',
      value: crashes,
      unit: 'crashes',
      must: { atMost: 0 },
      beside: `${files.toLocaleString('en-GB')} files with bytes flipped, lines moved, dropped, doubled or broken; ${records.toLocaleString('en-GB')} contacts were still read`,
    },
    {
      name: 'mutated contact files, the slowest one',
      value: slowest,
      unit: 'ms',
      must: { atMost: 100 },
      beside:
        'read into records; the quickest of three tries of a file that took over 20 ms, since the machine stands still at times',
    },
    {
      name: 'ten times the length or count, growth of time',
      value: Math.max(...growth.map(({ times }) => times)),
      unit: 'times',
      must: { atMost: 30 },
      beside: growth.map(({ shape, times }) => `${shape} ${times.toFixed(1)}`).join(', '),
    },
  ];
}

function reading(text: string, bytes: Buffer) {
  const ours: number[] = [];
  const theirs: number[] = [];
  const read = () => {
    const reader = createContactReader();
    let cards = 0;
    for (let at = 0; at < bytes.length; at += CHUNK) cards += reader.push(bytes.subarray(at, at + CHUNK)).length;
    cards += reader.end().length;
    if (cards !== CONTACTS) throw new Error(`${cards} contacts were read.`);
  };
  read();
  for (let turn = 0; turn < TURNS; turn += 1) {
    ours.push(timed(read));
    theirs.push(timed(() => ICAL.parse(text)));
  }
  return { ours, theirs };
}

function writingRates(bytes: Buffer) {
  const cards: ContactCard[] = [];
  const reader = createContactReader();
  for (const { card } of [...reader.push(bytes), ...reader.end()]) if (card) cards.push(card);
  return VERSIONS.map((version) => {
    const rates = Array.from({ length: 3 }, () => {
      let letters = 0;
      const time = timed(() => {
        for (const card of cards) letters += writeRead(card, version).text.length;
      });
      return letters / 1e6 / (time / 1e3);
    });
    return { version, rate: median(rates) };
  });
}

/** Reads the file in a process of its own, which is asked for its memory before and meanwhile. */
async function memoryOfStream(file: string): Promise<{ idle: number; above: number; count: number }> {
  const child = spawn(process.execPath, ['--import', 'tsx', 'commands/bench/stream.ts', file], {
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  let out = '';
  child.stdout.on('data', (chunk: Buffer) => (out += chunk.toString()));
  await new Promise((resolve) => child.once('close', resolve));
  const { idle, peak, count } = JSON.parse(out) as { idle: number; peak: number; count: number };
  if (count !== CONTACTS || statSync(file).size === 0) throw new Error(`${count} contacts came through the stream.`);
  return { idle: idle / 1e6, above: (peak - idle) / 1e6, count };
}
