import { build } from 'esbuild';
import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { readFile, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress } from 'node:zlib';
import { ROOT } from './place';
import { say, Stop } from './stop';

const MARK = path.join(ROOT, '.next', 'heathland-sources');
const SOURCES = ['src', 'migrations', 'next.config.ts', 'package.json', 'package-lock.json', 'tsconfig.json'];

function filesIn(place: string): string[] {
  const full = path.join(ROOT, place);
  if (!existsSync(full)) return [];
  if (!place.includes('.'))
    return readdirSync(full, { recursive: true, withFileTypes: true })
      .filter((entry) => entry.isFile() && !/\.test\.tsx?$/.test(entry.name))
      .map((entry) => path.join(entry.parentPath, entry.name))
      .sort();
  return [full];
}

function hashOfSources(): string {
  const hash = createHash('sha256');
  for (const file of SOURCES.flatMap(filesIn)) hash.update(path.relative(ROOT, file)).update(readFileSync(file));
  return hash.digest('hex');
}

/** Builds the application for production when its sources are other than those of the last build. */
export async function buildIfChanged(): Promise<void> {
  const wanted = hashOfSources();
  if (existsSync(MARK) && readFileSync(MARK, 'utf8') === wanted) return;
  say('Building the application (about a minute) …');
  const output: string[] = [];
  const code = await new Promise<number | null>((resolve) => {
    const next = spawn(process.execPath, ['node_modules/next/dist/bin/next', 'build'], {
      cwd: ROOT,
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    next.stdout.on('data', (chunk) => output.push(String(chunk)));
    next.stderr.on('data', (chunk) => output.push(String(chunk)));
    next.once('close', resolve);
  });
  if (code !== 0) throw new Stop(`The build failed:\n${output.join('').slice(-4_000)}`);
  await buildListener(BUILT_LISTENER);
  await compressStatic(path.join(ROOT, '.next', 'static'));
  writeFileSync(MARK, wanted);
}

/** Puts what `listen/built-static.ts` sends beside each script and style: compressed once, as well as can be. */
async function compressStatic(folder: string): Promise<void> {
  const compress = promisify(brotliCompress);
  const files = readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && /\.(js|css)$/.test(entry.name))
    .map((entry) => path.join(entry.parentPath, entry.name));
  await Promise.all(files.map(async (file) => writeFile(`${file}.br`, await compress(await readFile(file)))));
}

/** The listener as plain JavaScript: starts at once and runs without the helpers that a TypeScript loader adds, threads included. */
export const BUILT_LISTENER = path.join(ROOT, '.next', 'listener.mjs');
/** The same while one edits, apart from what a production build keeps. */
const DEV_LISTENER = path.join(ROOT, '.heathland', 'dev', 'listener.mjs');

const COMPUTE = { compute: 'src/server/compute/program.ts' };

const buildListener = (listener: string): Promise<void> =>
  bundle(path.dirname(listener), {
    listener: 'src/server/listen/main.ts',
    'studio-process': 'src/server/listen/studio-process.ts',
    'jobs-process': 'src/server/listen/jobs-process.ts',
    ...COMPUTE,
  });

/** Bundles what is no part of whoever runs from the sources, as commands and tests do: the compute pool, and what browsers get. Answers with its folder. */
export async function buildPrograms(): Promise<string> {
  const folder = path.join(ROOT, '.heathland', 'programs');
  await bundle(folder, COMPUTE);
  return folder;
}

/** The worker of a card's page, for every browser that has service workers at all. */
const bundleForBrowsers = (outdir: string) =>
  build({
    entryPoints: { 'kept-copy': 'src/workers/kept-copy.ts' },
    absWorkingDir: ROOT,
    outdir,
    bundle: true,
    minify: true,
    platform: 'browser',
    format: 'iife',
    target: 'es2017',
    logLevel: 'warning',
  });

/** Packages with programs or data of their own beside their code, and drivers of databases that are not ours: they stay where they are installed. */
const OUTSIDE = [
  ...[
    'next',
    'sharp',
    '@node-rs/argon2',
    'graphile-worker',
    'jsdom',
    'subset-font',
    'mediabunny',
    'harfbuzzjs',
    'pino',
  ],
  ...['better-sqlite3', 'mysql', 'mysql2', 'mariadb', 'oracledb', 'tedious', 'sqlite3', 'pg-query-stream', 'pg-native'],
];
/** What packages written for the older kind of module find around them. */
const AROUND = `
import { createRequire as requireFrom } from 'node:module';
import { dirname as folderOf } from 'node:path';
import { fileURLToPath as pathOf } from 'node:url';
const require = requireFrom(import.meta.url), __filename = pathOf(import.meta.url), __dirname = folderOf(__filename);`;

async function bundle(outdir: string, entryPoints: Record<string, string>): Promise<void> {
  await bundleForBrowsers(outdir);
  await build({
    entryPoints,
    absWorkingDir: ROOT,
    outdir,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    // What a process of the pool never does, it never loads.
    splitting: true,
    chunkNames: 'part-[hash]',
    // One file is read quicker than a thousand: a process that was killed is back in half the time.
    external: OUTSIDE.flatMap((name) => [name, `${name}/*`]),
    banner: { js: AROUND },
    platform: 'node',
    format: 'esm',
    target: 'node20',
    sourcemap: true,
    minifyWhitespace: true,
    minifySyntax: true,
    logLevel: 'warning',
  });
}

/** Bundles the listener for `./heathland dev`, and answers with where it lies. */
export async function buildDevListener(): Promise<string> {
  await buildListener(DEV_LISTENER);
  return DEV_LISTENER;
}
