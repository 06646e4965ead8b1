import { createReadStream, existsSync, readFileSync } from 'node:fs';
import type { Readable } from 'node:stream';
import { firstLines } from '../src/core/card';
import { sayCaution, sayFinding } from '../src/core/findings';
import { defaultLabel, shownValue, writtenName } from '../src/core/record';
import { lineTypeOf } from '../src/core/record/line-type';
import {
  createContactReader,
  jcardOf,
  readContacts,
  recordFrom,
  VERSIONS,
  writeMeCard,
  writeRead,
  type ReadContact,
  type VcardVersion,
} from '../src/core/vcard';
import { withInstallation } from './archive/installation';
import { fromWhereCalled } from './place';
import { Stop } from './stop';

const USAGE = `./heathland contacts read FILE…                   a JSON line a file: its contacts as jCard (RFC 7095), and what was not understood
./heathland contacts write --version 3.0 FILE     jCards, or lines that read has printed, as vCard ${VERSIONS.join(', ')} or mecard
./heathland contacts ticks --audience public FILE a JSON line a contact: where each detail goes on a first card; public or private
./heathland contacts prove CARD-ADDRESS           the proof of a published card’s contact file, in each version
A FILE of - is standard input.`;

/** Contact files for scripts. */
export async function run([verb, ...rest]: string[]): Promise<number> {
  // Whoever reads us may have seen enough.
  process.stdout.on('error', () => process.exit(0));
  if (verb === 'read' && rest.length > 0) return readFiles(rest.map(located));
  if (verb === 'write') return write(rest);
  if (verb === 'ticks') return ticks(rest);
  if (verb === 'prove' && rest.length === 1) return prove(rest[0]!);
  throw new Stop(USAGE);
}

const located = (name: string): string => (name === '-' ? name : fromWhereCalled(name));

const put = async (text: string) => {
  if (!process.stdout.write(text)) await new Promise((resolve) => process.stdout.once('drain', resolve));
};

async function readFiles(names: string[]): Promise<number> {
  const missing = names.find((name) => name !== '-' && !existsSync(name));
  if (missing) throw new Stop(`There is no file ${missing}.`);
  let found = 0;
  for (const name of names) found += await readOne(name, name === '-' ? process.stdin : createReadStream(name));
  return found > 0 ? 0 : 1;
}

/** Prints a file's contacts as they come, so that none waits for the last one. Answers how many there were. */
async function readOne(name: string, bytes: Readable): Promise<number> {
  const reader = createContactReader();
  const notUnderstood: { card: number; line: number; code: string; property?: string }[] = [];
  let count = 0;
  const show = async (read: ReadContact[]) => {
    for (const { card, warnings } of read) {
      for (const { line, code } of warnings) notUnderstood.push({ card: count + 1, line, code });
      if (!card) continue;
      await put(`${count > 0 ? ',' : ''}${JSON.stringify(jcardOf(card))}`);
      count += 1;
      for (const { property, why } of recordFrom(card, 'GB')?.record.kept ?? [])
        notUnderstood.push({ card: count, line: card.line, code: why, property: property.slice(0, 200) });
    }
  };
  await put(`{"file":${JSON.stringify(name)},"cards":[`);
  for await (const chunk of bytes) await show(reader.push(chunk as Buffer));
  await show(reader.end());
  await put(`],"notUnderstood":${JSON.stringify(notUnderstood)}}\n`);
  return count;
}

async function write(args: string[]): Promise<number> {
  const at = args.indexOf('--version');
  const wanted = at < 0 ? '3.0' : args[at + 1];
  const [file, ...more] = args.filter((_, index) => at < 0 || (index !== at && index !== at + 1)).map(located);
  const version = VERSIONS.find((each) => each === wanted);
  if (!file || more.length > 0 || (!version && wanted !== 'mecard')) throw new Stop(USAGE);
  if (file !== '-' && !existsSync(file)) throw new Stop(`There is no file ${file}.`);
  const text = readFileSync(file === '-' ? 0 : file, 'utf8');
  const cannot = new Set<string>();
  let written = 0;
  for (const { card, warnings } of jcardsIn(text).flatMap(readContacts)) {
    for (const { line, code } of warnings) process.stderr.write(`line ${line}: ${code}\n`);
    if (!card) continue;
    const { text: made, cannotSay } = version ? writeRead(card, version as VcardVersion) : writeMeCard(card.properties);
    for (const name of cannotSay) cannot.add(name);
    await put(version ? made : `${made}\n`);
    written += 1;
  }
  if (cannot.size > 0)
    process.stderr.write(
      `${version ? 'As extensions, since this version has no property for them' : 'Left out, since MeCard has no field for them'}: ${[...cannot].join(', ')}\n`,
    );
  if (written === 0) throw new Stop(`${file} holds no jCard.`);
  return 0;
}

/** The jCards of a text, which is one, an array of them, or lines as `read` prints them. */
function jcardsIn(text: string): string[] {
  if (!/^\s*\{/.test(text)) return [text];
  return text
    .split('\n')
    .filter((line) => line.trim())
    .map((line) => {
      try {
        return JSON.stringify((JSON.parse(line) as { cards?: unknown }).cards ?? []);
      } catch {
        return line;
      }
    });
}

/** Prints how a first card for a public or private audience is ticked, for each contact of a file. */
async function ticks(args: string[]): Promise<number> {
  const at = args.indexOf('--audience');
  const audience = at < 0 ? 'public' : args[at + 1];
  const [file, ...more] = args.filter((_, index) => at < 0 || (index !== at && index !== at + 1)).map(located);
  if (!file || more.length > 0 || (audience !== 'public' && audience !== 'private')) throw new Stop(USAGE);
  if (file !== '-' && !existsSync(file)) throw new Stop(`There is no file ${file}.`);
  const reader = createContactReader();
  let count = 0;
  const show = async (read: ReadContact[]) => {
    for (const { card } of read) {
      const record = card && recordFrom(card, 'GB')?.record;
      if (!record) continue;
      const lines = new Map(
        firstLines(record, { isPrivate: audience === 'private' }, lineTypeOf).map((line) => [line.detail, line.ticks]),
      );
      const details = record.details.map((detail) => ({
        kind: detail.kind,
        value: shownValue(detail),
        label: defaultLabel(detail),
        ticks: lines.get(detail.id),
      }));
      await put(`${JSON.stringify({ name: writtenName(record.name), details })}\n`);
      count += 1;
    }
  };
  for await (const chunk of file === '-' ? process.stdin : createReadStream(file))
    await show(reader.push(chunk as Buffer));
  await show(reader.end());
  return count > 0 ? 0 : 1;
}

async function prove(address: string): Promise<number> {
  const name = address
    .replace(/[?#].*$/, '')
    .replace(/\/+$/, '')
    .replace(/\.vcf$/, '')
    .split('/')
    .at(-1)!
    .toLowerCase();
  return withInstallation(async () => {
    const { proveCardAt } = await import('../src/server/services/publishing/prove-card');
    const { closeDb } = await import('../src/server/db/pool');
    try {
      const proven = await proveCardAt(name).catch((error: unknown) => {
        throw (error as { problem?: { code: string } }).problem?.code === 'NOT_FOUND'
          ? new Stop(`No card is published at ${name}.`)
          : error;
      });
      for (const { version, proof } of proven) {
        await put(`vCard ${version}: ${proof.passed ? 'proven' : 'FAILS'}\n`);
        for (const check of proof.checks)
          await put(`  ${check.passed ? (check.note ? 'note' : 'ok  ') : 'FAIL'}  ${sayFinding(check.finding)}\n`);
        for (const caution of proof.cautions) {
          const { sentence, source } = sayCaution(caution);
          await put(`  warn  ${sentence} (${source})\n`);
        }
      }
      return proven.every(({ proof }) => proof.passed) ? 0 : 1;
    } finally {
      await closeDb();
    }
  });
}
