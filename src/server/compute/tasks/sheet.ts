import { parse } from 'csv-parse/sync';
import readXlsx from 'read-excel-file/node';
import { fromBufferPromise, type Entry, type ZipFile } from 'yauzl';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { decodedAs } from '@/core/vcard';
import { guessFields, headingRow, textOf, type Cell, type Cells, type Field } from '@/core/roster';

/** A sheet as it is looked at before anything of it is kept. */
export type SheetColumns = {
  sheets: string[];
  sheet: number;
  /** The row of the headings, counted from 1 as the program counts. */
  headingRow: number;
  columns: { heading: string; samples: string[]; field: Field | null }[];
  rows: number;
};
/** Where the rows of a sheet are, and what each column holds; columns without a field are never handed over. */
export type SheetAsked = { bytes: Buffer; sheet: number; headingRow: number; fields: (Field | null)[] };
export type SheetRow = { at: number; cells: Cells };

type Table = { sheets: string[]; rows: Cell[][] };
const damaged = () => new Refusal({ code: 'SHEET_UNREADABLE' });
const SAMPLES = 3;

/** The parts of an archive that a workbook is made of, looked at before anything reads it: names, sizes, and what really comes out. */
async function partsOf(bytes: Buffer): Promise<Map<string, Buffer>> {
  let zip: ZipFile;
  try {
    zip = await fromBufferPromise(bytes, { strictFileNames: true, validateEntrySizes: true });
  } catch {
    throw damaged();
  }
  const parts = new Map<string, Buffer>();
  let left = LIMITS.sheetPartsBytes;
  try {
    for await (const entry of zip.eachEntry() as AsyncIterable<Entry>) {
      left -= entry.uncompressedSize;
      if (left < 0 || parts.size > LIMITS.sheetParts)
        throw new Refusal({ code: 'SHEET_TOO_LARGE', limitBytes: LIMITS.sheetPartsBytes });
      if (!/\.(xml|rels)$/.test(entry.fileName)) continue;
      const chunks: Buffer[] = [];
      for await (const chunk of await zip.openReadStreamPromise(entry)) chunks.push(chunk as Buffer);
      parts.set(entry.fileName.replace(/^\//, ''), Buffer.concat(chunks));
    }
  } catch (error) {
    throw error instanceof Refusal ? error : damaged();
  }
  if (!parts.has('xl/workbook.xml')) throw new Refusal({ code: 'NOT_A_SHEET' });
  return parts;
}

const attribute = (tag: string, name: string): string => new RegExp(`\\b${name}="([^"]*)"`).exec(tag)?.[1] ?? '';

/** The XML of a workbook's sheet by its place (ECMA-376-1 18.2.20 sheets, ECMA-376-2 relationships). */
function sheetXml(parts: Map<string, Buffer>, at: number): string {
  const book = parts.get('xl/workbook.xml')!.toString('utf8');
  const tag = [...book.matchAll(/<(?:\w+:)?sheet\s[^>]*>/g)][at]?.[0] ?? '';
  const relations = parts.get('xl/_rels/workbook.xml.rels')?.toString('utf8') ?? '';
  const target = [...relations.matchAll(/<Relationship\s[^>]*>/g)].find(
    ([each]) => attribute(each, 'Id') === attribute(tag, 'r:id'),
  )?.[0];
  const name = target ? attribute(target, 'Target') : '';
  return parts.get(name.startsWith('/') ? name.slice(1) : `xl/${name}`)?.toString('utf8') ?? '';
}

const columnOf = (letters: string): number =>
  [...letters].reduce((sum, each) => sum * 26 + each.charCodeAt(0) - 64, 0) - 1;

/** What was merged says the same in all of its cells down a column, as it looks (ECMA-376-1 18.3.1.54). */
function fillMerged(rows: Cell[][], xml: string): void {
  for (const [, left, top, , bottom] of xml.matchAll(/<mergeCell\s+ref="([A-Z]{1,3})(\d+):([A-Z]{1,3})(\d+)"/g)) {
    const [column, first] = [columnOf(left!), Number(top) - 1];
    const said = rows[first]?.[column];
    for (let at = first + 1; said && at < Math.min(Number(bottom), rows.length); at += 1) rows[at]![column] = said;
  }
}

/** Digits of a number as a cell has them: `4.4207946E+11` in full, where nothing was lost. */
const digits = (raw: string): string => (Number.isSafeInteger(Number(raw)) ? String(Number(raw)) : raw);

async function readWorkbook(bytes: Buffer, at: number): Promise<Table> {
  const parts = await partsOf(bytes);
  const xml = sheetXml(parts, at);
  const count = xml.split(/<row[\s>]/).length - 1;
  if (count > LIMITS.rosterRows + HEAD_ROWS)
    throw new Refusal({ code: 'TOO_MANY_ROWS', limit: LIMITS.rosterRows, found: count });
  let read;
  try {
    read = await readXlsx<{ raw: string }>(bytes, { parseNumber: (raw) => ({ raw }) });
  } catch {
    throw damaged();
  }
  const cell = (value: unknown): Cell => {
    if (value === null || value === undefined) return '';
    if (value instanceof Date) return { text: value.toISOString().slice(0, 10), was: 'date' };
    if (typeof value === 'object') return { text: digits((value as { raw: string }).raw), was: 'number' };
    const text = String(value).trim();
    return /^#(REF|N\/A|VALUE|NAME|DIV\/0|NUM|NULL)[!?]?$/.test(text) ? { text, was: 'error' } : text;
  };
  const rows = (read[at]?.data ?? []).map((row) => row.slice(0, LIMITS.rosterColumns).map(cell));
  fillMerged(rows, xml);
  return { sheets: read.map(({ sheet }) => sheet), rows };
}

/** Text of a table by its byte order mark, else as UTF-8 where it is that, else as Windows-1252 (WHATWG Encoding). */
function decoded(bytes: Buffer): string {
  const [first, second] = bytes;
  const zeros = bytes.subarray(0, 200).filter((byte, at) => byte === 0 && at % 2 === 1).length;
  if ((first === 0xff && second === 0xfe) || (zeros > 40 && first !== 0))
    return new TextDecoder('utf-16le').decode(bytes);
  if (first === 0xfe && second === 0xff) return new TextDecoder('utf-16be').decode(bytes);
  if (bytes.includes(0)) throw new Refusal({ code: 'NOT_A_SHEET' });
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return decodedAs('windows-1252', bytes);
  }
}

/** Rows above the headings of a sheet that may have the largest number of rows. */
const HEAD_ROWS = 20;
const LOOKED_AT = 20;

/** What parts the cells: what the first line says (`sep=;`), else what most of the first lines have as often as the first of them. */
function delimiterOf(text: string): { delimiter: string; from: number } {
  const told = /^sep=(.)\r?\n/i.exec(text);
  if (told) return { delimiter: told[1]!, from: told[0].length };
  const lines = text
    .slice(0, 40_000)
    .replace(/"[^"]*"/g, '')
    .split(/\r?\n/, LOOKED_AT)
    .filter(Boolean);
  const often = [';', '\t', ',', '|'].map((delimiter) => {
    const counts = lines.map((line) => line.split(delimiter).length - 1);
    const most = Math.max(0, ...counts);
    return { delimiter, score: most === 0 ? 0 : counts.filter((count) => count === most).length * 100 + most };
  });
  return { delimiter: often.reduce((best, each) => (each.score > best.score ? each : best)).delimiter, from: 0 };
}

function readText(bytes: Buffer): Table {
  const text = decoded(bytes).replace(/^﻿/, '');
  const { delimiter, from } = delimiterOf(text);
  try {
    const rows = parse(text.slice(from), {
      ...{ delimiter, relax_column_count: true, relax_quotes: true, skip_empty_lines: false, trim: true },
      max_record_size: LIMITS.rosterLine,
      to: LIMITS.rosterRows + HEAD_ROWS + 1,
    }) as string[][];
    if (rows.length > LIMITS.rosterRows + HEAD_ROWS)
      throw new Refusal({ code: 'TOO_MANY_ROWS', limit: LIMITS.rosterRows, found: rows.length });
    return { sheets: [''], rows: rows.map((row) => row.slice(0, LIMITS.rosterColumns)) };
  } catch (error) {
    throw error instanceof Refusal ? error : damaged();
  }
}

/** A sheet of either form. Errors: NOT_A_SHEET, SHEET_OLD, SHEET_UNREADABLE, SHEET_TOO_LARGE, TOO_MANY_ROWS, SHEET_EMPTY. */
async function tableOf(bytes: Buffer, sheet: number): Promise<Table> {
  const magic = bytes.subarray(0, 4).toString('hex');
  if (magic === 'd0cf11e0') throw new Refusal({ code: 'SHEET_OLD' });
  const table = magic === '504b0304' ? await readWorkbook(bytes, sheet) : readText(bytes);
  if (!table.rows.some((row) => row.some((cell) => textOf(cell) !== ''))) throw new Refusal({ code: 'SHEET_EMPTY' });
  return table;
}

/** The columns of a sheet with what they seem to hold; `headings` names their row, counted from 1, where somebody knows better. */
export async function sheetColumns(asked: {
  bytes: Buffer;
  sheet: number;
  headings: number | null;
}): Promise<SheetColumns> {
  const { sheets, rows } = await tableOf(asked.bytes, asked.sheet);
  const at = asked.headings === null ? headingRow(rows) : asked.headings - 1;
  const headings = (rows[at] ?? []).map(textOf);
  const filled = headings.filter(Boolean);
  if (filled.length === 0) throw new Refusal({ code: 'NO_HEADINGS' });
  const below = rows.slice(at + 1).filter((row) => row.some((cell) => textOf(cell) !== ''));
  if (below.length === 0) throw new Refusal({ code: 'SHEET_EMPTY' });
  const fields = guessFields(headings);
  const columns = headings.map((heading, column) => {
    const samples = new Set<string>();
    for (const row of below) {
      const text = textOf(row[column]);
      if (text) samples.add(text.slice(0, 60));
      if (samples.size >= SAMPLES) break;
    }
    return { heading: heading.slice(0, LIMITS.label), samples: [...samples], field: fields[column] ?? null };
  });
  return { sheets, sheet: asked.sheet, headingRow: at + 1, columns, rows: below.length };
}

/** The rows of a sheet below its headings, of each only the cells that have a field. Errors as of the sheet, TOO_MANY_ROWS. */
export async function sheetRows({ bytes, sheet, headingRow: head, fields }: SheetAsked): Promise<SheetRow[]> {
  const { rows } = await tableOf(bytes, sheet);
  const made = rows.slice(head).flatMap((row, index): SheetRow[] => {
    const cells = fields.flatMap((field, column) => {
      const cell = row[column];
      return field && cell !== undefined && textOf(cell) !== '' ? [[field, cell] as const] : [];
    });
    return cells.length > 0 ? [{ at: head + index + 1, cells: Object.fromEntries(cells) }] : [];
  });
  if (made.length > LIMITS.rosterRows)
    throw new Refusal({ code: 'TOO_MANY_ROWS', limit: LIMITS.rosterRows, found: made.length });
  if (made.length === 0) throw new Refusal({ code: 'SHEET_EMPTY' });
  return made;
}
