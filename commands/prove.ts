import { sayFinding } from '../src/core/findings';
import { loadWords } from '../src/core/messages';
import type { Proof } from '../src/core/proof';
import { systemClock } from '../src/server/clock';
import type { GivenOut } from '../src/server/services/hand-outs/export-parts';
import { withInstallation } from './archive/installation';
import { code, contactFile, languageOf, mail, page, servedBy, signature, tag } from './channel-files';
import { asOwner } from './cluster/databases';
import { say, Stop } from './stop';

const USAGE = `./heathland prove [CARD-ADDRESS …] [--json]
holds every hand-out that is out, of these cards or of all, against its ticks, from the bytes that recipients get. Exit code 1 where a proof fails`;

type Proven = { address: string; channel: string; placement: string; output: string; proof: Proof };

/** The proofs of a hand-out: of the piece itself, and of the page and contact file that its code leads to. */
async function proofsOf(
  { channel, parts }: GivenOut,
  get: (target: string) => Promise<Buffer>,
): Promise<[output: string, proof: Proof][]> {
  const { page: onPage, file, signature: signed, code: inCode, tag: onTag } = parts;
  const made: [string, Promise<{ proof: Proof }> | { proof: Proof }][] = [];
  if (channel === 'code') made.push(['code', code((inCode ?? onPage)!)]);
  if (channel === 'tag') made.push(['tag', tag((onTag ?? onPage)!)]);
  if (signed) made.push(['signature', signature(signed, get)]);
  if (channel === 'message') made.push(['mail', mail(file!, get)]);
  if (channel === 'print' || channel === 'backdrop' || channel === 'pass') {
    const { pieceByCode } = await import('../src/server/services/pieces/export-pieces');
    made.push([channel, pieceByCode(onPage!.code, systemClock)]);
  }
  if (onPage) made.push(['page', page(onPage, get)]);
  if (file) made.push(['contact file', contactFile(file, get)]);
  return Promise.all(made.map(async ([output, each]): Promise<[string, Proof]> => [output, (await each).proof]));
}

/** Every hand-out of these cards, or of all that are out, with its proofs. */
async function proveAll(addresses: string[]): Promise<Proven[]> {
  const { givenOut } = await import('../src/server/services/hand-outs/export-parts');
  const get = await servedBy();
  const proven: Proven[] = [];
  for (const address of addresses) {
    const given = await givenOut(address, systemClock).catch((error: { problem?: { code: string } }) => {
      if (error.problem?.code === 'CARD_NOT_PUBLISHED') return [];
      throw error.problem?.code === 'NOT_FOUND' ? new Stop(`No card is published at ${address}.`) : error;
    });
    const [first] = given.flatMap(({ parts }) => Object.values(parts));
    if (first) await loadWords(languageOf(first.served.composition));
    for (const each of given)
      for (const [output, proof] of await proofsOf(each, get))
        proven.push({ address, channel: each.channel, placement: each.placement, output, proof });
  }
  return proven;
}

/** Proves what is out, from the served bytes. */
export async function run(args: string[]): Promise<number> {
  const json = args.includes('--json');
  const named = args.filter((word) => word !== '--json');
  if (named.some((word) => word.startsWith('-'))) throw new Stop(USAGE);
  if (!process.env.DATABASE_URL) process.env.PUBLIC_URL ??= `http://127.0.0.1:${process.env.PORT ?? 4600}`;
  return withInstallation(async () => {
    const { closeDb } = await import('../src/server/db/pool');
    const { closeCompute } = await import('../src/server/compute');
    try {
      const addresses = named.length > 0 ? named.map((word) => word.toLowerCase()) : await allAddresses();
      const proven = await proveAll(addresses);
      const failing = proven.filter(({ proof }) => !proof.passed);
      if (json) process.stdout.write(`${JSON.stringify({ proofs: proven.length, failing: failing.length })}\n`);
      for (const { address, placement, output, proof } of json ? [] : failing)
        for (const { finding } of proof.checks.filter(({ passed }) => !passed))
          say(`${address}, ${placement}, ${output}: ${sayFinding(finding)}`);
      if (!json) say(`${proven.length - failing.length} of ${proven.length} outputs of hand-outs pass their proof.`);
      return failing.length === 0 ? 0 : 1;
    } finally {
      closeCompute();
      await closeDb();
    }
  });
}

const allAddresses = (): Promise<string[]> =>
  asOwner(process.env.DATABASE_URL!, async (client) => {
    const { rows } = await client.query<{ name: string }>(
      'SELECT name FROM directory_addresses WHERE is_current ORDER BY name',
    );
    return rows.map(({ name }) => name);
  });
