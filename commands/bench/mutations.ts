import { readdirSync, readFileSync } from 'node:fs';
import { createContactReader, recordFrom } from '../../src/core/vcard';
import { variedContacts } from './varied-contacts';

const FOLDER = 'tests/fixtures/contacts';
const AGAIN_ABOVE_MS = 20;

/** Reads bytes whole, into records; what it makes of them plays no part. */
function readAll(bytes: Uint8Array): number {
  const reader = createContactReader();
  let records = 0;
  for (const { card } of [...reader.push(bytes), ...reader.end()]) if (card && recordFrom(card, 'GB')) records += 1;
  return records;
}

const timed = (bytes: Uint8Array): { time: number; records: number } => {
  const began = performance.now();
  const records = readAll(bytes);
  return { time: performance.now() - began, records };
};

/** Reads so many files, each an export of some program that was broken in up to four ways. */
export function mutatedFiles(count: number) {
  let state = 20_261_125;
  const below = (limit: number) => Math.floor(((state = (state * 48_271) % 2_147_483_647) / 2_147_483_647) * limit);
  const sources = [
    ...readdirSync(FOLDER).map((name) => readFileSync(`${FOLDER}/${name}`)),
    ...[...variedContacts(8)].map((text) => Buffer.from(text)),
    Buffer.from('MECARD:N:Brandreth,Odile;TEL:+447700900456;ADR:,,Mill Lane 2,Wexcombe,,WX1 1AA,;;'),
    Buffer.from(
      '[["vcard",[["fn",{},"text","Odile"],["n",{},"text",["B","O",["x","y"],"",""]],["tel",{"type":["cell"]},"uri","tel:+447700900456"]]]]',
    ),
  ];
  const WEDGES = [
    'BEGIN:VCARD\r\n',
    'END:VCARD\n',
    '=\r\n',
    '\r\n ',
    '"',
    ';',
    ':',
    '\\',
    '\u0000',
    'ENCODING=QUOTED-PRINTABLE:',
    ';CHARSET=UTF-16:',
    ';ENCODING=b:',
    '\ufeff',
    '=',
  ].map((text) => Buffer.from(text));
  let slowest = 0;
  let crashes = 0;
  let records = 0;
  for (let file = 0; file < count; file += 1) {
    let bytes = Buffer.from(sources[below(sources.length)]!);
    for (let step = below(4); step >= 0; step -= 1) {
      const at = below(bytes.length + 1);
      const to = Math.min(bytes.length, at + below(200));
      const kind = below(6);
      if (kind === 0) for (let flip = below(20); flip >= 0; flip -= 1) bytes[below(bytes.length)] = below(256);
      else if (kind === 1) bytes = Buffer.concat([bytes.subarray(0, at), bytes.subarray(to)]);
      else if (kind === 2) bytes = Buffer.concat([bytes.subarray(0, to), bytes.subarray(at, to), bytes.subarray(to)]);
      else if (kind === 3)
        bytes = Buffer.concat([bytes.subarray(0, at), WEDGES[below(WEDGES.length)]!, bytes.subarray(at)]);
      else if (kind === 4) bytes = bytes.subarray(0, at);
      else bytes = Buffer.concat([bytes.subarray(at), bytes.subarray(0, at)]);
    }
    try {
      const tried = timed(bytes);
      let { time } = tried;
      if (time > AGAIN_ABOVE_MS) time = Math.min(time, timed(bytes).time, timed(bytes).time);
      slowest = Math.max(slowest, time);
      records += tried.records;
    } catch {
      crashes += 1;
    }
  }
  return { slowest, crashes, files: count, records };
}

/** Files of one shape by their size. */
const SHAPES: Record<string, (size: number) => string> = {
  'a long line': (size) => `NOTE:${'x'.repeat(size * 500)}`,
  'a folded line': (size) => `NOTE:x${'\r\n y'.repeat(size)}`,
  'a line broken badly': (size) => `NOTE:x${'\r\nbroken'.repeat(size)}`,
  'soft breaks': (size) => `NOTE;ENCODING=QUOTED-PRINTABLE:x${'=\r\n=41'.repeat(size)}`,
  parameters: (size) => `TEL${';TYPE=x'.repeat(size)}:1`,
  quotes: (size) => `TEL;TYPE=${'"x",'.repeat(size)}x:1`,
  components: (size) => `ADR:${'x;'.repeat(size)}`,
  'escaped commas': (size) => `CATEGORIES:${'x\\,y,'.repeat(size)}`,
  phones: (size) => 'TEL:+442079460111\r\n'.repeat(size),
  'labelled groups': (size) =>
    Array.from({ length: size }, (_, at) => `item${at}.URL:https://x.example/${at}\r\nitem${at}.X-ABLabel:L`).join(
      '\r\n',
    ),
  'cards without end': (size) => 'BEGIN:VCARD\r\nFN:x\r\n'.repeat(size),
  'cards within cards': (size) => 'AGENT:\r\nBEGIN:VCARD\r\nFN:x\r\n'.repeat(size),
};

const SMALL = 2_000;

/** How much longer a file of ten times the size takes: about ten where time is linear, a hundred where it is quadratic. */
export function growthOfTime(): { shape: string; times: number }[] {
  return Object.entries(SHAPES).map(([shape, body]) => {
    const quickest = (size: number) => {
      const bytes = Buffer.from(`BEGIN:VCARD\r\nVERSION:3.0\r\nFN:x\r\n${body(size)}\r\nEND:VCARD\r\n`);
      return Math.min(...Array.from({ length: 5 }, () => timed(bytes).time));
    };
    return { shape, times: quickest(SMALL * 10) / Math.max(0.5, quickest(SMALL)) };
  });
}
