import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, readlinkSync, statSync } from 'node:fs';
import { chmod, mkdir, rename, rm, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { HOME, ROOT, waitForLock } from '../place';
import { say, Stop } from '../stop';
import { AT_RUN_TIME, buildCommands, buildListener, compressStatic, keepCode } from './bundles';
import { listenerOf } from './listener';
import { linkFolder, neededPackages } from './needed';

const RELEASES = path.join(HOME, 'releases');
/** So many releases of a checkout stay, beside those that run. */
const KEPT = 3;
const SOURCES = ['src', 'migrations', 'assets', 'next.config.ts', 'package.json', 'package-lock.json', 'tsconfig.json'];
const COMMANDS = ['commands', 'deploy'];
/** Commands that no release has. */
const OF_CHECKOUTS = /^commands\/(bench\/|(main|demo|dev|test|mutants|docs|fonts|screenshots)\.ts$)/;

const LAUNCHER = `#!/bin/sh
# Heathland's commands, as built: they need Node.js 20 or newer, and nothing else of this machine.
HEATHLAND_FROM=$PWD
export HEATHLAND_FROM NEXT_TELEMETRY_DISABLED=1
cd "$(dirname "$(readlink -f "$0")")" && exec node --enable-source-maps commands/main.mjs "$@"
`;

const isTest = (name: string): boolean => /\.test\.tsx?$/.test(name);

function filesIn(place: string): string[] {
  const full = path.join(ROOT, place);
  if (!existsSync(full)) return [];
  if (statSync(full).isFile()) return [full];
  return readdirSync(full, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && !isTest(entry.name))
    .map((entry) => path.join(entry.parentPath, entry.name))
    .filter((file) => !OF_CHECKOUTS.test(path.relative(ROOT, file)))
    .sort();
}

/** Of a package: others' packages, which have lines of their own, and what tells of its sources. */
const notNeeded = (place: string): boolean => /\/node_modules$|\.(map|d\.[cm]?ts)$/.test(place);

/** What a release is made of, as one number; two checkouts with the same sources have the same. */
function hashOfSources(): string {
  const hash = createHash('sha256');
  for (const file of [...SOURCES, ...COMMANDS].flatMap(filesIn))
    hash.update(path.relative(ROOT, file)).update('\0').update(readFileSync(file));
  return hash.digest('hex').slice(0, 12);
}

/** The release of these sources, built unless it is there: a folder that is never changed again. Two that build wait for each other. */
export async function builtRelease(): Promise<string> {
  const hash = hashOfSources();
  const folder = path.join(RELEASES, hash);
  if (existsSync(folder)) return folder;
  const release = await waitForLock('build', 'a build');
  try {
    if (!existsSync(folder)) await make(folder, hash);
    await removeOld(folder);
  } finally {
    release();
  }
  return folder;
}

/** The same in a folder that somebody chose. */
export async function releaseInto(folder: string): Promise<void> {
  const release = await waitForLock('build', 'a build');
  try {
    if (existsSync(folder))
      throw new Stop(`${folder} is there already and was left as it is. A release has a folder of its own.`);
    await make(folder, hashOfSources());
  } finally {
    release();
  }
}

async function make(folder: string, hash: string): Promise<void> {
  say('Building the application (about a minute) …');
  const stage = path.join(path.dirname(folder), `.building-${path.basename(folder)}-${process.pid}`);
  await rm(stage, { recursive: true, force: true });
  try {
    mkdirSync(stage, { recursive: true });
    const copy = (place: string) =>
      cpSync(path.join(ROOT, place), path.join(stage, place), { recursive: true, filter: (name) => !isTest(name) });
    SOURCES.filter((place) => existsSync(path.join(ROOT, place))).forEach(copy);
    await linkFolder(path.join(ROOT, 'node_modules'), path.join(stage, 'node_modules'));
    await nextBuild(stage, hash);

    // What built it goes; what runs stays.
    const left = ['src', 'migrations', 'next.config.ts', 'next-env.d.ts', 'tsconfig.json', 'package-lock.json'];
    const ofNext = ['cache', 'types', 'diagnostics', 'trace', 'trace-build'].map((name) => path.join('.next', name));
    await Promise.all(
      [...left, ...ofNext, 'node_modules'].map((place) =>
        rm(path.join(stage, place), { recursive: true, force: true }),
      ),
    );
    for (const place of neededPackages(ROOT, AT_RUN_TIME))
      await linkFolder(path.join(ROOT, place), path.join(stage, place), notNeeded);

    const listener = listenerOf(stage);
    await buildListener(listener);
    await buildCommands(stage);
    await Promise.all([keepCode(listener, stage), compressStatic(path.join(stage, '.next', 'static'))]);
    cpSync(path.join(ROOT, 'deploy'), path.join(stage, 'deploy'), { recursive: true });
    const { name, version, engines } = JSON.parse(readFileSync(path.join(ROOT, 'package.json'), 'utf8')) as Package;
    const told = { name, version: `${version}+${hash}`, private: true, type: 'module', engines };
    await writeFile(path.join(stage, 'package.json'), `${JSON.stringify(told, null, 2)}\n`);
    await writeFile(path.join(stage, 'heathland'), LAUNCHER);
    await chmod(path.join(stage, 'heathland'), 0o755);
    await mkdir(path.dirname(folder), { recursive: true });
    await rename(stage, folder);
  } finally {
    await rm(stage, { recursive: true, force: true });
  }
}

type Package = { name: string; version: string; engines: object };

async function nextBuild(folder: string, hash: string): Promise<void> {
  const output: string[] = [];
  const code = await new Promise<number | null>((resolve) => {
    const next = spawn(process.execPath, ['node_modules/next/dist/bin/next', 'build'], {
      cwd: folder,
      env: { ...process.env, NODE_ENV: 'production', HEATHLAND_BUILD: hash },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    next.stdout.on('data', (chunk) => output.push(String(chunk)));
    next.stderr.on('data', (chunk) => output.push(String(chunk)));
    next.once('close', resolve);
  });
  if (code !== 0) throw new Stop(`The build failed:\n${output.join('').slice(-4_000)}`);
}

/** Releases of this checkout that are neither among the newest nor run. What a killed build left goes as well. */
async function removeOld(newest: string): Promise<void> {
  const running = new Set(foldersOfProcesses());
  const ages = readdirSync(RELEASES)
    .map((name) => path.join(RELEASES, name))
    .filter((folder) => folder !== newest && !running.has(folder))
    .map((folder) => ({ folder, half: path.basename(folder).startsWith('.'), at: statSync(folder).mtimeMs }))
    .sort((a, b) => b.at - a.at);
  const whole = ages.filter(({ half }) => !half);
  const going = [...ages.filter(({ half }) => half), ...whole.slice(KEPT - 1)];
  await Promise.all(going.map(({ folder }) => rm(folder, { recursive: true, force: true })));
}

/** The folders in which processes of this machine run, as far as they may be looked at (proc(5)). */
function foldersOfProcesses(): string[] {
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .flatMap((pid) => {
      try {
        return [readlinkSync(`/proc/${pid}/cwd`)];
      } catch {
        return [];
      }
    });
}
