import { fromBufferPromise, type Entry } from 'yauzl';
import writeXlsx from 'write-excel-file/node';
import { ZipFile } from 'yazl';
import { LIMITS } from '@/core/limits';

/** A page of a workbook: rows of texts, the first of them headings, and how many empty rows of text cells follow. */
export type WorkbookPage = { name: string; widths: number[]; rows: string[][]; empty?: number };
export type WorkbookAsked = {
  pages: WorkbookPage[];
  /** What columns of the first page offer, counted from 0; something else may be typed all the same. */
  lists: { column: number; choices: string[] }[];
};

const escaped = (text: string) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/"/g, '&quot;');
const lettersOf = (at: number): string =>
  (at < 26 ? '' : lettersOf(Math.floor(at / 26) - 1)) + String.fromCharCode(65 + (at % 26));
/** A list that stands in the cell's own rule may be this long (ECMA-376-1 18.3.1.32, as spreadsheets enforce it; from memory). */
const LONGEST_LIST = 250;

/** Every cell is text, so that nothing is taken for a formula and a typed zero at the front stays. */
const text = (value: string, more: object = {}) => ({ value, type: String, format: '@', ...more });

/** A workbook of texts (ECMA-376-1). */
export async function makeWorkbook({ pages, lists }: WorkbookAsked): Promise<Buffer> {
  const made = writeXlsx(
    pages.map(({ name, widths, rows: [head = [], ...rows], empty = 0 }) => ({
      data: [
        head.map((value) => text(value, { fontWeight: 'bold' })),
        ...rows.map((row) => row.map((value) => text(value, { wrap: value.length > 60 }))),
        ...Array.from({ length: empty }, () => head.map(() => text(''))),
      ],
      sheet: name,
      columns: widths.map((width) => ({ width })),
      stickyRowsCount: 1,
    })) as never,
  ) as unknown as { toBuffer: () => Promise<Buffer> };
  const bytes = Buffer.from(await made.toBuffer());
  return lists.length > 0 ? withLists(bytes, lists) : bytes;
}

/** The rules of lists put into the first page (ECMA-376-1 18.3.1.33), and all packed anew. */
async function withLists(bytes: Buffer, lists: WorkbookAsked['lists']): Promise<Buffer> {
  const rules = lists.map(({ column, choices }) => {
    let list = '';
    for (const each of choices.filter((choice) => !/[,"]/.test(choice)))
      if (list.length + each.length + 1 <= LONGEST_LIST) list += `${list ? ',' : ''}${each}`;
    const letters = lettersOf(column);
    const place = `${letters}2:${letters}${LIMITS.rosterRows}`;
    return `<dataValidation type="list" allowBlank="1" showErrorMessage="0" sqref="${place}"><formula1>${escaped(`"${list}"`)}</formula1></dataValidation>`;
  });
  const told = `<dataValidations count="${rules.length}">${rules.join('')}</dataValidations>`;
  const zip = await fromBufferPromise(bytes);
  const packed = new ZipFile();
  for await (const entry of zip.eachEntry() as AsyncIterable<Entry>) {
    const chunks: Buffer[] = [];
    for await (const chunk of await zip.openReadStreamPromise(entry)) chunks.push(chunk as Buffer);
    const part = Buffer.concat(chunks);
    const isFirst = entry.fileName === 'xl/worksheets/sheet1.xml';
    const xml = isFirst ? part.toString('utf8').replace('</sheetData>', `</sheetData>${told}`) : null;
    packed.addBuffer(xml === null ? part : Buffer.from(xml), entry.fileName);
  }
  packed.end();
  const made: Buffer[] = [];
  for await (const chunk of packed.outputStream) made.push(chunk as Buffer);
  return Buffer.concat(made);
}
