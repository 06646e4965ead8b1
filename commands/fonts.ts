import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { copyFileSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import subsetFont from 'subset-font';
import { FAMILIES, FAMILY_NAMES, RANGES, SUBSETS, WEIGHTS, type FamilyName } from '../src/core/look';
import { ROOT } from './place';

/** What each file is taken from: a package of the registry, at this version, and the files in it. */
type Source = { package: string; version: string; licence: string; files: Record<string, string> };
type Sources = { families: Record<FamilyName, Source>; studio: Source[] };

/** What a browser does by itself (CSS Fonts 4, 6.6: features that are on by default; OpenType’s own for joined scripts): no other glyph is needed. */
const FEATURES = 'kern mark mkmk abvm blwm curs ccmp locl liga clig calt rlig rclt isol init medi fina dist'.split(' ');

const FOLDER = path.join(ROOT, 'assets/fonts');

/** The letters that a list of code points (CSS, `unicode-range`) names. */
function lettersOf(range: string): string {
  const points = range.split(',').flatMap((part) => {
    const [from, to = from] = part.slice('U+'.length).split('-');
    const first = parseInt(from!, 16);
    return Array.from({ length: parseInt(to!, 16) - first + 1 }, (_, at) => first + at);
  });
  return String.fromCodePoint(...points);
}

function unpack({ package: name, version }: Source, into: string): string {
  const npm = (args: string[]) => spawnSync('npm', args, { cwd: into, encoding: 'utf8' });
  const packed = npm(['pack', '--json', `${name}@${version}`]);
  if (packed.status !== 0) throw new Error(`${name}@${version} cannot be fetched.`);
  const [{ filename }] = JSON.parse(packed.stdout) as [{ filename: string }];
  const folder = mkdtempSync(path.join(into, 'package-'));
  if (spawnSync('tar', ['xf', path.join(into, filename), '-C', folder]).status !== 0)
    throw new Error(`${filename} cannot be unpacked.`);
  return path.join(folder, 'package');
}

const digest = (file: string) => createHash('sha256').update(readFileSync(file)).digest('hex');

/**
 * Makes `assets/fonts` anew from its `sources.json`: the TrueType files as their authors give them out, and from these very files the
 * WOFF2 subsets of the page. Run by whoever adds a family or takes a newer version; what comes of it is committed.
 */
async function main(): Promise<void> {
  const sources = JSON.parse(readFileSync(path.join(FOLDER, 'sources.json'), 'utf8')) as Sources;
  const place = mkdtempSync(path.join(tmpdir(), 'fonts-'));
  const made: string[] = [];
  const put = (source: Source, folder: string) => {
    const from = unpack(source, place);
    mkdirSync(path.join(FOLDER, folder), { recursive: true });
    for (const [name, inside] of Object.entries({ ...source.files, [source.licence]: source.licence })) {
      const to = path.join(FOLDER, folder, name === source.licence ? `${path.basename(source.package)}.OFL.txt` : name);
      copyFileSync(path.join(from, inside), to);
      if (name !== source.licence) made.push(to);
    }
  };
  for (const family of FAMILY_NAMES) {
    put(sources.families[family], family);
    for (const weight of WEIGHTS)
      for (const subset of SUBSETS) {
        if (subset === 'arabic' && family !== 'vazirmatn') continue;
        const font = readFileSync(path.join(FOLDER, family, `${weight}.ttf`));
        const options = { targetFormat: 'woff2' as const, noHinting: true, keepFeatures: FEATURES };
        const file = path.join(FOLDER, family, `${weight}-${subset}.woff2`);
        writeFileSync(file, await subsetFont(font, lettersOf(RANGES[subset]), options));
        made.push(file);
      }
  }
  for (const source of sources.studio) put(source, 'studio');
  rmSync(place, { recursive: true });
  const lines = made
    .map((file) => `${digest(file)}  ${path.relative(FOLDER, file)}`)
    .sort((a, b) => (a.slice(66) < b.slice(66) ? -1 : 1));
  writeFileSync(path.join(FOLDER, 'SHA256SUMS'), `${lines.join('\n')}\n`);
  console.log(`${made.length} files of ${Object.keys(FAMILIES).length} families and the studio.`);
}

void main();
