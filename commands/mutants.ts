import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { HOME, ROOT, takeLock } from './place';
import { say, Stop } from './stop';

/** Of the mutants that a test runs through, so many must be found out. */
const AT_LEAST = 0.85;

/** The rooms that are held to it, by the beginnings of their files. */
const ROOMS: [string, string[]][] = [
  ['proof', ['src/core/proof/']],
  ['first ticks', ['src/core/card/first-ticks.ts', 'src/core/card/privacy.ts']],
  ['response', ['src/core/response/']],
];

type Mutant = {
  status: string;
  mutatorName: string;
  replacement: string;
  location: { start: { line: number; column: number }; end: { line: number; column: number } };
};
/** Report of mutation testing (the schema of Stryker’s JSON reporter), as far as it is read here. */
type Report = { files: Record<string, { source: string; mutants: Mutant[] }> };

const KILLED = new Set(['Killed', 'Timeout']);

/**
 * Changes the code of proofs, first ticks and response one place at a time and runs the tests that go through it: what no test finds
 * out is listed. Exit code 1 where fewer are found out than must be. Words choose files.
 */
export async function run(files: string[]): Promise<number> {
  const release = takeLock('test', './heathland mutants');
  try {
    const code = await new Promise<number>((resolve) => {
      const args = ['node_modules/@stryker-mutator/core/bin/stryker.js', 'run', 'stryker.config.mjs'];
      const chosen = files.length > 0 ? ['--mutate', files.join(',')] : [];
      spawn(process.execPath, [...args, ...chosen], { cwd: ROOT, stdio: 'inherit' }).once('close', (end) =>
        resolve(end ?? 1),
      );
    });
    if (code !== 0) throw new Stop('Mutation testing could not be carried out; the reason stands above.');
    const report = JSON.parse(readFileSync(path.join(HOME, 'mutants.json'), 'utf8')) as Report;
    const all = Object.entries(report.files).flatMap(([file, { mutants }]) =>
      mutants.map((mutant) => ({ file, ...mutant })),
    );
    const survived = all.filter(({ status }) => status === 'Survived');
    for (const { file, mutatorName, replacement, location } of survived)
      say(
        `survived  ${file}:${location.start.line}:${location.start.column}  ${mutatorName}: ${replacement.slice(0, 80)}`,
      );
    let good = true;
    say('');
    for (const [room, beginnings] of ROOMS) {
      const own = all.filter(({ file }) => beginnings.some((beginning) => file.startsWith(beginning)));
      const killed = own.filter(({ status }) => KILLED.has(status)).length;
      const covered = killed + own.filter(({ status }) => status === 'Survived').length;
      const bare = own.filter(({ status }) => status === 'NoCoverage').length;
      if (covered === 0) continue;
      const share = killed / covered;
      good &&= share >= AT_LEAST;
      say(
        `${share >= AT_LEAST ? 'reached' : 'MISSED '}  ${room}: ${(share * 100).toFixed(1)} % of ${covered} mutants that a test runs through are found out (at least ${AT_LEAST * 100} %), ${bare} run through by none`,
      );
    }
    return good ? 0 : 1;
  } finally {
    release();
  }
}
