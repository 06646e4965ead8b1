import { spawn, type ChildProcess } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { migrationSource } from '../migrations';
import { migrate } from '../src/server/db/schema/migrate';
import { openCluster } from './cluster/cluster';
import { dropDatabase, ensureDatabase } from './cluster/databases';
import { needChromium, needDeployed, needReaders } from './packages';
import { HOME, ROOT, takeLock } from './place';
import { buildPrograms } from './release/bundles';
import { builtRelease } from './release/make';
import { say, Stop } from './stop';

type Counts = { passed: number; failed: number };
type Step = {
  word: string;
  about: string;
  /** It reads the sources and no more, so that others may run beside it. */
  reads?: true;
  /** It needs a release. */
  builds?: true;
  /** It takes long or kills programs: only `all` runs it, or whoever names it. */
  long?: true;
  run: (environment: Record<string, string>) => Promise<Counts>;
};

export const TEMPLATE = 'heathland_template';
export const TEST_SECRET = 'a secret of the tests, which is no secret';

/** Programs that are running, each at the head of a group of its own, so that all that it started ends with it. */
const running = new Set<ChildProcess>();
let brokenOff = false;

function breakOff(): void {
  brokenOff = true;
  for (const { pid } of running) {
    try {
      process.kill(-pid!, 'SIGKILL');
    } catch {
      // It ended by itself meanwhile.
    }
  }
}

/** Runs a program of Node.js; what it says is shown as it comes, or with `later` as a whole once it has ended. */
function execute(args: string[], environment: Record<string, string>, later = false): Promise<{ code: number }> {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, args, {
      cwd: ROOT,
      env: { ...process.env, ...environment },
      stdio: ['ignore', 'pipe', 'pipe'],
      detached: true,
    });
    running.add(child);
    let output = '';
    const take = (chunk: Buffer) => {
      output += chunk.toString();
      if (!later) process.stdout.write(chunk);
    };
    child.stdout.on('data', take);
    child.stderr.on('data', take);
    child.once('close', (code) => {
      running.delete(child);
      if (later && !brokenOff) process.stdout.write(output);
      resolve({ code: code ?? 1 });
    });
  });
}

/** A check that passes or fails as a whole. */
const whole = (args: string[]) => async (): Promise<Counts> =>
  (await execute(args, {}, true)).code === 0 ? { passed: 1, failed: 0 } : { passed: 0, failed: 1 };

/** Projects of jest.config.mjs. */
const jest =
  (...projects: string[]) =>
  async (environment: Record<string, string>): Promise<Counts> => {
    needReaders();
    needDeployed();
    const programs = { HEATHLAND_PROGRAMS: await buildPrograms() };
    const report = path.join(HOME, 'jest.json');
    rmSync(report, { force: true });
    const { code } = await execute(
      [
        ...[
          '--experimental-vm-modules',
          '--no-warnings',
          'node_modules/jest/bin/jest.js',
          '--maxWorkers=2',
          '--silent',
        ],
        ...['--json', `--outputFile=${report}`, '--selectProjects', ...projects],
      ],
      { ...environment, ...programs },
    );
    const counts = JSON.parse(readFileSync(report, 'utf8')) as { numPassedTests: number; numFailedTests: number };
    return { passed: counts.numPassedTests, failed: Math.max(counts.numFailedTests, code === 0 ? 0 : 1) };
  };

/** Projects of playwright.config.ts. */
const browser =
  (...projects: string[]) =>
  async (environment: Record<string, string>): Promise<Counts> => {
    needChromium();
    const report = path.join(HOME, 'playwright.json');
    rmSync(report, { force: true });
    const { code } = await execute(
      ['node_modules/@playwright/test/cli.js', 'test', ...projects.map((project) => `--project=${project}`)],
      { ...environment, TEST_RUN: String(process.pid), PLAYWRIGHT_JSON_OUTPUT_NAME: report },
    );
    const { stats } = JSON.parse(readFileSync(report, 'utf8')) as {
      stats: { expected: number; unexpected: number; flaky: number };
    };
    return { passed: stats.expected, failed: Math.max(stats.unexpected + stats.flaky, code === 0 ? 0 : 1) };
  };

const STEPS: Step[] = [
  {
    word: 'lint',
    about: 'Linter and import rules',
    reads: true,
    run: whole(['node_modules/eslint/bin/eslint.js', '.', '--max-warnings', '0']),
  },
  {
    word: 'format',
    about: 'Format',
    reads: true,
    run: whole(['node_modules/prettier/bin/prettier.cjs', '--check', '--log-level', 'warn', '.']),
  },
  {
    word: 'circles',
    about: 'No circles between files',
    reads: true,
    run: whole([
      'node_modules/dependency-cruiser/bin/dependency-cruise.mjs',
      '--config',
      'circles.config.mjs',
      'src',
      'commands',
      'demo',
      'migrations',
    ]),
  },
  {
    word: 'unused',
    about: 'Nothing that nothing uses',
    reads: true,
    run: whole(['node_modules/knip/bin/knip.js', '--no-config-hints']),
  },
  { word: 'types', about: 'Types', reads: true, run: whole(['node_modules/typescript/bin/tsc', '--noEmit']) },
  { word: 'jest', about: 'Jest', builds: true, run: jest('core', 'integration') },
  { word: 'browser', about: 'Playwright against a production build', builds: true, run: browser('beside') },
  { word: 'long-jest', about: 'Jest, what takes long or kills', long: true, builds: true, run: jest('long') },
  {
    word: 'long-browser',
    about: 'Playwright, what takes long or kills',
    long: true,
    builds: true,
    run: browser('long', 'alone'),
  },
];

/** The checks of every day, those named, or with `all` every one; closes with one line that counts them. */
export async function run(words: string[]): Promise<number> {
  const everything = words.length === 1 && words[0] === 'all';
  const unknown = everything ? undefined : words.find((word) => !STEPS.some((step) => step.word === word));
  if (unknown)
    throw new Stop(`There is no check “${unknown}”. There are: ${STEPS.map(({ word }) => word).join(', ')}; or all.`);
  const asked = ({ word, long }: Step) => (words.length > 0 ? words.includes(word) : !long);
  const steps = everything ? STEPS : STEPS.filter(asked);
  mkdirSync(HOME, { recursive: true });
  const release = takeLock('test', './heathland test');
  const cluster = await openCluster(ROOT, 'test-cluster', { durable: false });
  const total: Counts = { passed: 0, failed: 0 };
  for (const sign of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.once(sign, breakOff);
  try {
    await dropDatabase(cluster.url('postgres'), TEMPLATE);
    await ensureDatabase(cluster.url('postgres'), TEMPLATE);
    await migrate(cluster.url(TEMPLATE), TEST_SECRET, migrationSource);
    const environment = { TEST_DATABASE_SERVER: cluster.url('postgres'), TEST_SECRET, TEST_TEMPLATE: TEMPLATE };
    const carryOut = async ({ about, reads, run: check }: Step) => {
      if (brokenOff) return;
      const began = Date.now();
      if (!reads) say(`\n— ${about}`);
      const { passed, failed } = await check(environment).catch((error: unknown) => {
        if (brokenOff) return { passed: 0, failed: 0 };
        throw error;
      });
      if (brokenOff) return;
      total.passed += passed;
      total.failed += failed;
      const told = `${failed === 0 ? 'good' : 'NOT GOOD'} (${((Date.now() - began) / 1000).toFixed(0)} s)`;
      say(reads ? `— ${about}: ${told}` : `  ${told}`);
    };
    // The linter takes as long as all others that read.
    const [longest, ...others] = steps.filter(({ reads }) => reads);
    // What is tested in a browser is built beside it as well.
    const build = async () => void (brokenOff || (steps.some(({ builds }) => builds) && (await builtRelease())));
    await Promise.all([
      longest && carryOut(longest),
      others.reduce((before, step) => before.then(() => carryOut(step)), Promise.resolve()).then(build),
    ]);
    for (const step of steps.filter(({ reads }) => !reads)) await carryOut(step);
  } finally {
    await cluster.stop();
    release();
  }
  if (brokenOff) throw new Stop('Broken off; everything that was started has ended.');
  say(`\n${total.passed} passed, ${total.failed} failed`);
  return total.failed === 0 ? 0 : 1;
}
