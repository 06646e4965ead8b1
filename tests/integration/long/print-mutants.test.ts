import { decodePDFRawStream, PDFDict, PDFDocument, PDFName, type PDFPage, type PDFRawStream } from '@cantoo/pdf-lib';
import { CompositionSchema, type Composition } from '@/core/card';
import { loadWords } from '@/core/messages';
import { FIRST_PIECE } from '@/core/print';
import { provePrint } from '@/core/proof/print';
import { drawCode, PLAIN_STYLE, symbolFor } from '@/core/qr';
import { laidPiece, printPiece, type PieceOrder } from '@/server/compute/tasks/print/piece';
import { readPrint } from '@/server/compute/tasks/print/read';

const LINK = 'HTTPS://CARDS.EXAMPLE/H/7K3M9QWD';
const line = (detail: object) => ({
  id: 'x',
  label: '',
  on: ['print'],
  detail: { label: '', preferred: false, ...detail },
});
const composition: Composition = CompositionSchema.parse({
  name: { prefix: '', given: 'Ilse', additional: '', family: 'Varrow', suffix: '', written: '' },
  lines: [
    { ...line({ kind: 'title', id: 't', text: 'Lead rope inspector' }), id: 't' },
    { ...line({ kind: 'phone', id: 'p', number: '+442079460182', uses: ['work'] }), id: 'p', label: 'Direct' },
    { ...line({ kind: 'email', id: 'e', address: 'ilse.varrow@tarnhope.example', uses: ['work'] }), id: 'e' },
  ],
});
const order: PieceOrder = {
  ...{ composition, language: 'en', piece: FIRST_PIECE, link: LINK, withheld: ['07700 900182'], inks: [] },
  artworks: null,
  pictures: { photo: null, logo: null, logoOnBand: null, ground: null },
  code: drawCode(symbolFor(LINK), PLAIN_STYLE),
};
let sound: Buffer;
beforeAll(async () => {
  await loadWords('en');
  const { pdf, proof } = await printPiece({ ...order, title: 'Ilse Varrow', shown: false });
  expect(proof.checks.filter(({ passed }) => !passed)).toEqual([]);
  sound = pdf;
});

/** The content of a page, changed. */
function rewritten(document: PDFDocument, at: number, change: (content: string) => string): void {
  const page: PDFPage = document.getPages()[at]!;
  const stream = page.node.Contents() as PDFRawStream;
  const content = Buffer.from(decodePDFRawStream(stream).decode()).toString('latin1');
  const next = change(content);
  expect(next).not.toBe(content);
  const { context } = document;
  page.node.set(PDFName.of('Contents'), context.register(context.flateStream(next)));
}

/** What was broken in the file, and the checks that say so. */
const MUTANTS: [string, (document: PDFDocument) => void, string[]][] = [
  [
    'one glyph of a number is dropped',
    (document) =>
      rewritten(document, 0, (content) => {
        const texts = [...content.matchAll(/\[[^\]]*\] TJ/g)];
        const longest = texts.reduce((most, each) => (each[0].length > most[0].length ? each : most))[0];
        return content.replace(longest, longest.replace(/<[0-9a-f]{4}>(?=[^<]*<[0-9a-f]{4}>\] TJ$)/, ''));
      }),
    ['ticked lines', 'words'],
  ],
  [
    'the code is moved by a millimetre',
    (document) =>
      rewritten(document, 1, (content) =>
        content.replace(
          /q\n([\d.]+) 0 0 \1 ([\d.]+) ([\d.]+) cm/,
          (_, s, x, y) => `q\n${s} 0 0 ${s} ${Number(x) - 1} ${y} cm`,
        ),
      ),
    ['code'],
  ],
  ['the code is gone', (document) => rewritten(document, 1, (content) => content.replace(/f\*/g, 'n')), ['code']],
  [
    'a corner of the code is printed over',
    // In the millimetres of the trim, once the code is drawn.
    (document) =>
      rewritten(document, 1, (content) => content.replace(/f\*\nQ\nQ\n(?![^]*f\*)/, '$&0 0 0 1 k 50 13 12 10 re f\n')),
    ['code'],
  ],
  [
    'the words are set at a third of their size',
    (document) =>
      rewritten(document, 0, (content) =>
        content.replace(
          /([\d.]+) 0 0 (-[\d.]+) ([\d.]+ [\d.]+ Tm)/g,
          (_, a, d, rest) => `${Number(a) / 3} 0 0 ${Number(d) / 3} ${rest}`,
        ),
      ),
    ['type'],
  ],
  [
    'words reach over the edge',
    (document) => rewritten(document, 0, (content) => content.replace(/(0 0 -[\d.]+) [\d.]+ ([\d.]+ Tm)/, '$1 -2 $2')),
    ['safe area'],
  ],
  [
    'words are as pale as the ground',
    (document) => rewritten(document, 0, (content) => content.replace(/BT\n[\d. ]+ (rg|k)/g, 'BT\n0.98 0.98 0.95 rg')),
    ['contrast'],
  ],
  [
    'a typeface is not in the file',
    (document) => {
      for (const [, object] of document.context.enumerateIndirectObjects())
        if (object instanceof PDFDict) object.delete(PDFName.of('FontFile2'));
    },
    ['typefaces'],
  ],
  [
    'it is trimmed to another size',
    (document) => document.getPages()[0]!.setTrimBox(30, 30, 200, 150),
    ['trim and bleed'],
  ],
  [
    'there is no bleed',
    (document) => {
      const page = document.getPages()[1]!;
      const { x, y, width, height } = page.getTrimBox();
      page.setBleedBox(x, y, width, height);
    },
    ['trim and bleed'],
  ],
  ['a side is missing', (document) => document.removePage(1), ['code', 'trim and bleed', 'words']],
];

test.each(MUTANTS)('the proof of a printed piece tells that %s', async (_, breaks, tells) => {
  const document = await PDFDocument.load(sound, { updateMetadata: false });
  breaks(document);
  const read = await readPrint(Buffer.from(await document.save({ useObjectStreams: false })));
  const { checks } = provePrint(read, { ...order, laid: await laidPiece(order) });
  const failed = checks.filter(({ passed }) => !passed).map(({ name }) => name);
  for (const each of tells) expect(failed).toContain(each);
});

test('a value that is not ticked is told of wherever it stands in the file', async () => {
  const leaking = { ...order, withheld: [...order.withheld, 'ilse.varrow@tarnhope.example'] };
  const { checks } = provePrint(await readPrint(sound), { ...leaking, laid: await laidPiece(order) });
  expect(checks.find(({ name }) => name === 'unticked lines')).toMatchObject({ passed: false, finding: { still: 1 } });
});
