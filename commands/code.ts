import { existsSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { wordingOf, type Problem } from '../src/core/errors';
import { LIMITS } from '../src/core/limits';
import {
  codeSvg,
  distanceMm,
  sideOf,
  drawCode,
  liveCodeText,
  PLAIN_STYLE,
  symbolInStyle,
  TooLong,
  type CodeStyle,
} from '../src/core/qr';
import { CodeStyleSchema } from '../src/core/qr/schema';
import { readByBoth, type ScanProof } from '../src/core/proof/scan';
import { CODES } from '../src/core/words';
import { withInstallation } from './archive/installation';
import { fromWhereCalled } from './place';
import { Stop } from './stop';

const USAGE = `./heathland code make --text TEXT --out FILE.(svg|pdf|png|jpg)      a QR code; --mm includes the white margin
./heathland code make --card ADDRESS [--channel code] --out FILE   the code of a published card: its link, or with --channel code the contact itself
                 [--style FILE.json] [--mm 25] [--dpi 300]
./heathland code prove FILE [--json]                               reads and tries the codes of a picture, SVG or PDF; exit code 1 where one fails`;

const FORMATS = ['svg', 'pdf', 'png', 'jpg'] as const;

/** QR codes for scripts. */
export async function run([verb, ...rest]: string[]): Promise<number> {
  if (verb === 'make') return make(rest);
  if (verb === 'prove') return prove(rest);
  throw new Stop(USAGE);
}

/** What was said, or a stop that tells how to say it. */
function said<T>(read: () => T): T {
  try {
    return read();
  } catch {
    throw new Stop(USAGE);
  }
}

function numberOf(text: string | undefined, first: number, [least, most]: [number, number], name: string): number {
  const value = text === undefined ? first : Number(text);
  if (!(value >= least && value <= most)) throw new Stop(`--${name} is a number from ${least} to ${most}.`);
  return value;
}

function styleOf(file: string | undefined): CodeStyle {
  if (file === undefined) return PLAIN_STYLE;
  const place = fromWhereCalled(file);
  if (!existsSync(place)) throw new Stop(`There is no file ${file}.`);
  let given: unknown;
  try {
    given = JSON.parse(readFileSync(place, 'utf8'));
  } catch {
    throw new Stop(`${file} is no JSON.`);
  }
  const read = CodeStyleSchema.safeParse(given);
  if (read.success) return read.data;
  const [first] = read.error.issues;
  throw new Stop(`${file} is no style of a code: ${[...(first?.path ?? []), first?.message].join(' ')}.`);
}

async function make(args: string[]): Promise<number> {
  const { values } = said(() =>
    parseArgs({
      args,
      options: {
        ...{ text: { type: 'string' }, card: { type: 'string' }, channel: { type: 'string' } },
        ...{ style: { type: 'string' }, mm: { type: 'string' }, dpi: { type: 'string' }, out: { type: 'string' } },
      },
    }),
  );
  const format = FORMATS.find((each) => path.extname(values.out ?? '') === `.${each}`);
  if (!format || (values.text === undefined) === (values.card === undefined)) throw new Stop(USAGE);
  if (values.channel !== undefined && (values.channel !== 'code' || !values.card)) throw new Stop(USAGE);
  const style = styleOf(values.style);
  const widthMm = numberOf(values.mm, 25, [3, 2_000], 'mm');
  const dpi = numberOf(values.dpi, 300, [36, 2_400], 'dpi');
  const text = values.text ?? (await textOfCard(values.card!, values.channel === 'code'));
  if (text === '') throw new Stop('A code of nothing says nothing: give it a text.');
  const out = fromWhereCalled(values.out!);
  if (!existsSync(path.dirname(out))) throw new Stop(`There is no folder ${path.dirname(values.out!)}.`);
  const drawing = await drawn(text, style);
  const title = values.card ? `Code of ${values.card}` : 'QR code';
  if (format === 'svg') writeFileSync(out, codeSvg(drawing, { title, widthMm }));
  else {
    const { codeFile } = await import('../src/server/compute/tasks/code/picture');
    writeFileSync(out, await codeFile({ drawing, widthMm, dpi, format, title, spot: null }));
  }
  return 0;
}

async function drawn(text: string, style: CodeStyle) {
  try {
    const { codeWords } = await import('../src/server/compute/tasks/code/words');
    return drawCode(symbolInStyle(text, style), style, style.words ? await codeWords({ text: style.words }) : null);
  } catch (error) {
    if (!(error instanceof TooLong)) throw error;
    throw new Stop(wordingOf({ code: 'CONTENT_TOO_LARGE', bytes: Buffer.byteLength(text), room: LIMITS.codeBytes }));
  }
}

/** What the code of a published card holds: its link, or the contact that its ticks let into a code. */
async function textOfCard(address: string, frozen: boolean): Promise<string> {
  const name = address
    .replace(/[?#].*$/, '')
    .replace(/\/+$/, '')
    .split('/')
    .at(-1)!
    .toLowerCase();
  let text = '';
  await withInstallation(async () => {
    const { codeTextAt } = await import('../src/server/services/publishing/code-text');
    const { closeDb } = await import('../src/server/db/pool');
    try {
      const found = await codeTextAt(name, frozen);
      if (found === null) throw new Stop(`No card is published at ${name}.`);
      text = frozen ? found : liveCodeText(found);
      return 0;
    } finally {
      await closeDb();
    }
  });
  return text;
}

async function prove(args: string[]): Promise<number> {
  const { values, positionals } = said(() =>
    parseArgs({ args, allowPositionals: true, options: { json: { type: 'boolean' } } }),
  );
  const [file, ...more] = positionals;
  if (!file || more.length > 0) throw new Stop(USAGE);
  const place = fromWhereCalled(file);
  if (!existsSync(place) || !statSync(place).isFile()) throw new Stop(`There is no file ${file}.`);
  if (statSync(place).size > LIMITS.designBytes)
    throw new Stop(wordingOf({ code: 'FILE_TOO_LARGE', limitBytes: LIMITS.designBytes }));
  const { proveDesign } = await import('../src/server/compute/tasks/code/design');
  const design = await proveDesign({ bytes: readFileSync(place), repair: true }).catch(
    (error: { problem?: Problem }) => {
      throw error.problem ? new Stop(wordingOf(error.problem)) : error;
    },
  );
  const told = design.codes.map(({ report, page, widthMm, repair }) => ({
    text: report.text,
    verdict: report.faults.length === 0 ? ('pass' as const) : ('fail' as const),
    faults: report.faults,
    trials: report.proof.trials.map(({ kind, scale, read }) => ({ kind, scale, read })),
    read: countsOf(report.proof),
    smallestMm: report.smallestMm,
    remedy: repair ? CODES.repaired(repair) : null,
    ...{ page, version: report.version, level: report.level, widthMm },
    contrast: report.measures.contrast,
    margin: report.measures.margin,
    fewestPixels: report.fewestPixels,
    size: report.size,
  }));
  const passed = told.length > 0 && told.every(({ verdict }) => verdict === 'pass');
  if (values.json) {
    const none = { text: null, verdict: 'fail', trials: [], read: {}, smallestMm: null, remedy: null };
    const [first = none, ...others] = told;
    process.stdout.write(`${JSON.stringify(others.length > 0 ? { ...first, others } : first)}\n`);
    return passed ? 0 : 1;
  }
  if (told.length === 0) process.stdout.write(`${CODES.noCode(design.looked, design.pages)}\n`);
  for (const code of told) {
    const { read, of } = { read: code.read, of: code.trials.length };
    const size =
      code.smallestMm && code.fewestPixels
        ? ` Smallest ${code.smallestMm} mm. ${CODES.scansAt(25, distanceMm(25, sideOf(code.size), code.fewestPixels))}`
        : '';
    process.stdout.write(
      `${code.verdict === 'pass' ? 'pass' : 'FAIL'}  ${JSON.stringify(code.text)}\n      ${Object.entries(read)
        .map(([name, count]) => CODES.readBy(name, count, of))
        .join(', ')}; contrast ${code.contrast}, margin ${code.margin}.${size}\n`,
    );
    for (const fault of code.faults) process.stdout.write(`      ${CODES.faults[fault]}\n`);
    if (code.remedy) process.stdout.write(`      ${code.remedy}\n`);
  }
  process.stdout.write(`${CODES.pass}\n`);
  return passed ? 0 : 1;
}

const countsOf = (proof: ScanProof): Record<string, number> => ({ ...proof.read, both: readByBoth(proof).read });
