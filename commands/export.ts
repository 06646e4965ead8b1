import { existsSync, mkdirSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { wordingOf, type Problem } from '../src/core/errors';
import { SIZE_NAMES, type SizeName } from '../src/core/print';
import { loadWords } from '../src/core/messages';
import { systemClock } from '../src/server/clock';
import { withInstallation } from './archive/installation';
import { code, contactFile, languageOf, mail, page, servedBy, signature, tag } from './channel-files';
import { fromWhereCalled } from './place';
import { say, Stop } from './stop';

const CHANNELS = ['page', 'contact-file', 'code', 'tag', 'signature', 'mail', 'print', 'backdrop', 'pass'] as const;
type ExportChannel = (typeof CHANNELS)[number];

const USAGE = `./heathland export CARD-ADDRESS --channel ${CHANNELS.join('|')} --out DIR [--size ${SIZE_NAMES.join('|')}]
writes what the card gives out there, as it is served, and proof.json; a missing hand-out is made. Exit code 1 where the proof fails`;

/** The hand-out and the ticks that a channel stands on. */
const OF = {
  page: ['code', 'page'],
  'contact-file': ['code', 'file'],
  code: ['code', 'page'],
  tag: ['tag', 'page'],
  signature: ['signature', 'signature'],
  mail: ['code', 'file'],
} as const satisfies Record<
  Exclude<ExportChannel, 'print' | 'backdrop' | 'pass'>,
  readonly ['code' | 'tag' | 'signature', 'page' | 'file' | 'signature']
>;

/** What a card gives out on a channel, as files with their proof. */
export async function run(args: string[]): Promise<number> {
  const read = (() => {
    try {
      return parseArgs({
        args,
        allowPositionals: true,
        options: { channel: { type: 'string' }, out: { type: 'string' }, size: { type: 'string' } },
      });
    } catch {
      throw new Stop(USAGE);
    }
  })();
  const channel = CHANNELS.find((each) => each === read.values.channel);
  const [address, ...more] = read.positionals;
  const size = SIZE_NAMES.find((each) => each === read.values.size) ?? null;
  const sized = read.values.size === undefined || (size !== null && channel === 'print');
  if (!channel || !address || more.length > 0 || !read.values.out || !sized) throw new Stop(USAGE);
  const out = fromWhereCalled(read.values.out);
  if (existsSync(out) && !statSync(out).isDirectory()) throw new Stop(`${read.values.out} is no folder.`);
  // The demo's own address, where nothing else is said.
  if (!process.env.DATABASE_URL) process.env.PUBLIC_URL ??= `http://127.0.0.1:${process.env.PORT ?? 4600}`;
  return withInstallation(async () => {
    const { closeDb } = await import('../src/server/db/pool');
    const { closeCompute } = await import('../src/server/compute');
    try {
      const name = address
        .replace(/[?#].*$/, '')
        .replace(/\/+$/, '')
        .split('/')
        .at(-1)!
        .toLowerCase();
      const { files, proof } = await made(channel, name, size);
      mkdirSync(out, { recursive: true });
      for (const [file, bytes] of Object.entries({ ...files, 'proof.json': `${JSON.stringify(proof, null, 2)}\n` }))
        writeFileSync(path.join(out, file), bytes);
      say(
        `${[...Object.keys(files), 'proof.json'].join(', ')} in ${read.values.out}: ${proof.passed ? 'proven' : 'the proof fails'}.`,
      );
      return proof.passed ? 0 : 1;
    } finally {
      closeCompute();
      await closeDb();
    }
  });
}

/** The files of a channel with their proof. */
async function made(
  channel: ExportChannel,
  name: string,
  size: SizeName | null,
): Promise<{ files: Record<string, string | Uint8Array>; proof: { passed: boolean } }> {
  const refused = (error: { problem?: Problem }) => {
    throw error.problem ? new Stop(`${name}: ${wordingOf(error.problem)}`) : error;
  };
  if (channel === 'print' || channel === 'backdrop' || channel === 'pass') {
    const { exportPiece } = await import('../src/server/services/pieces/export-pieces');
    const { file, bytes, proof } = await exportPiece(name, channel, size, systemClock).catch(refused);
    return { files: { [file]: bytes }, proof };
  }
  const { exportParts } = await import('../src/server/services/hand-outs/export-parts');
  const [handOut, ticks] = OF[channel];
  const parts = await exportParts(name, handOut, ticks, systemClock).catch(refused);
  await loadWords(languageOf(parts.served.composition));
  const get = await servedBy();
  return { page, 'contact-file': contactFile, code, tag, signature, mail }[channel](parts, get);
}
