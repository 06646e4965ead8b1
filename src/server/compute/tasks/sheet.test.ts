import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { LIMITS } from '@/core/limits';
import { textOf } from '@/core/roster';
import { makeWorkbook } from './workbook';
import { sheetColumns, sheetRows } from './sheet';

/** Python's own writer of tables (module csv) in a dialect and an encoding of its codecs. */
const WRITE = `
import csv, io, json, sys
asked = json.load(sys.stdin)
out = io.StringIO()
csv.writer(out, delimiter=asked['delimiter'], lineterminator=asked['end']).writerows(asked['rows'])
sys.stdout.buffer.write(out.getvalue().encode(asked['encoding'], 'replace'))
`;
const written = (rows: string[][], how: { delimiter: string; end: string; encoding: string }) =>
  execFileSync('python3', ['-c', WRITE], { input: JSON.stringify({ rows, ...how }) });

const HEAD = ['Personal-Nr.', 'Nachname', 'Vorname', 'Funktion', 'E-Mail', 'Gehalt'];
const ROWS = [
  ['0041', 'Müller', 'Uta', 'Seil; Stütze, Talstation | "Nord"', 'uta@tarnhope.example', '61.200,00'],
  ['0042', 'Weiß', 'Ilse', 'Zwei\nZeilen', 'ilse@tarnhope.example', ''],
  ['0043', 'O’Neill', 'Keld', '=SUM(A1)', 'keld@tarnhope.example', '1'],
];
const FIELDS = ['staff number', 'family', 'given', 'title', 'email'] as const;

const dialects = [';', ',', '\t', '|'].flatMap((delimiter) =>
  ['utf-8', 'utf-8-sig', 'utf-16', 'utf-16-le', 'cp1252'].flatMap((encoding) => ({
    delimiter,
    encoding,
    end: delimiter === ',' ? '\n' : '\r\n',
  })),
);

test.each(dialects)(
  'a table parted by $delimiter in $encoding is read cell by cell (Python’s csv and codecs)',
  async (how) => {
    const bytes = written([['Liste vom 1.11.'], HEAD, ...ROWS], how);
    const read = await sheetColumns({ bytes, sheet: 0, headings: null });
    expect([read.headingRow, read.rows]).toEqual([2, 3]);
    expect(read.columns.map(({ field }) => field)).toEqual([...FIELDS, null]);
    const rows = await sheetRows({ bytes, sheet: 0, headingRow: 2, fields: [...FIELDS, null] });
    expect(rows.map(({ cells }) => FIELDS.map((field) => textOf(cells[field])))).toEqual(
      ROWS.map((row) => row.slice(0, FIELDS.length)),
    );
    expect(JSON.stringify(rows)).not.toContain('61.200');
  },
);

test('a workbook that we write is read back cell by cell, and another program’s lists stand in it as ECMA-376 has them', async () => {
  const page = { name: 'Staff', widths: HEAD.map(() => 20), rows: [HEAD, ...ROWS] };
  const guide = { name: 'How to fill in', widths: [20], rows: [['Column'], ['x']] };
  const bytes = await makeWorkbook({
    pages: [page, guide],
    lists: [{ column: 3, choices: ['Rope & tower', 'a, b', 'Ä<'] }],
  });
  const { sheets, columns } = await sheetColumns({ bytes, sheet: 0, headings: null });
  expect(sheets).toEqual(['Staff', 'How to fill in']);
  expect(columns.map(({ field }) => field)).toEqual([...FIELDS, null]);
  const rows = await sheetRows({ bytes, sheet: 0, headingRow: 1, fields: [...FIELDS, null] });
  expect(rows.map(({ cells }) => FIELDS.map((field) => textOf(cells[field])))).toEqual(
    ROWS.map((row) => row.slice(0, FIELDS.length)),
  );
  // Python's XML parser and ZIP reader see the list as its own element after the data (ECMA-376-1 18.3.1.99 for the order).
  const told = execFileSync(
    'python3',
    [
      '-c',
      `
import io, json, sys, zipfile, xml.etree.ElementTree as tree
with zipfile.ZipFile(io.BytesIO(sys.stdin.buffer.read())) as book:
    assert book.testzip() is None
    root = tree.fromstring(book.read('xl/worksheets/sheet1.xml'))
name = lambda each: each.tag.split('}')[1]
order = [name(each) for each in root]
rule = next(each for each in root.iter() if name(each) == 'dataValidation')
print(json.dumps([order.index('dataValidations') > order.index('sheetData'), rule.get('sqref'), rule[0].text]))
`,
    ],
    { input: bytes },
  );
  expect(JSON.parse(told.toString())).toEqual([true, `D2:D${LIMITS.rosterRows}`, '"Rope & tower,Ä<"']);
});

test('what is merged says the same down its column; what is no table is told apart', async () => {
  await expect(
    sheetColumns({ bytes: readFileSync('tests/fixtures/ropeway.webm'), sheet: 0, headings: null }),
  ).rejects.toMatchObject({
    problem: { code: 'NOT_A_SHEET' },
  });
  await expect(
    sheetColumns({ bytes: Buffer.from('sep=;\nEmail;Team\n'), sheet: 0, headings: null }),
  ).rejects.toMatchObject({
    problem: { code: 'SHEET_EMPTY' },
  });
});
