import { CompositionSchema } from '@/core/card';
import { FIRST_PIECE, type LaidPiece, type Piece } from '@/core/print';
import { drawCode, PLAIN_STYLE, symbolFor } from '@/core/qr';
import { artworkChecks, numbersIn, says, type ReadArtwork } from './artwork';

const composition = CompositionSchema.parse({
  name: { prefix: '', given: 'Ilse', additional: '', family: 'Varrow', suffix: '', written: '' },
  lines: [
    {
      ...{ id: 'p', label: 'Direct', on: ['page', 'print'], preferred: false, opens: null },
      detail: { kind: 'phone', id: 'p', label: '', preferred: false, number: '+442079460182', uses: ['work'] },
    },
  ],
});
const drawing = drawCode(symbolFor('HTTPS://T.EXAMPLE/H/ABCDEFGH'), PLAIN_STYLE);
const design = (more: Partial<ReadArtwork> = {}): ReadArtwork => ({
  artwork: { kind: 'pdf', width: 91, height: 61, trim: null, text: true, removed: [] },
  lying: { box: { x: -3, y: -3, width: 91, height: 61 }, made: { width: 85, height: 55 }, bleedMm: 3, right: true },
  ...{ text: 'Ilse Varrow 020 7946 0182', letters: [], whiteEdges: false, zones: [{ spread: 1.1, contrast: 15 }] },
  ...more,
});

function judged(more: Partial<ReadArtwork>, { x = 50, plate = false, withheld = [] as string[] } = {}) {
  const placed: Piece['placed'] = [{ kind: 'code', side: 'front', x, y: 20, widthMm: 25, plate }];
  const box = { x, y: 20, width: 25, height: 25 };
  const face = { width: 85, height: 55, items: [{ kind: 'code' as const, ...box, drawing }] };
  const laid: LaidPiece = {
    front: { ...face, smallestType: Infinity, leftOut: [], cut: [], missing: [] },
    ...{ back: null, boxes: [box] },
  };
  const piece: Piece = { ...FIRST_PIECE, ground: 'artwork', placed };
  const checks = artworkChecks([design(more)], { composition, piece, laid, withheld });
  return {
    failed: checks.filter(({ passed }) => !passed).map(({ name }) => name),
    noted: checks.filter(({ note }) => note).map(({ name }) => name),
    of: (code: string) => checks.find(({ finding }) => finding.code === code)!.finding,
  };
}

test('a sound design passes without a word', () => {
  expect(judged({})).toMatchObject({ failed: [], noted: [] });
});

test.each<[string, Partial<ReadArtwork>, Parameters<typeof judged>[1], string[]]>([
  ['another size', { lying: { ...design().lying, right: false } }, {}, ['size of the design']],
  ['no bleed below coloured edges', { lying: { ...design().lying, bleedMm: 1.9 } }, {}, ['bleed of the design']],
  ['something in the margin of the code', { zones: [{ spread: 3, contrast: 9 }] }, {}, ['margin of the code']],
  ['a ground as dark as the code', { zones: [{ spread: 1, contrast: 3.9 }] }, {}, ['margin of the code']],
  ['a code over the cut', {}, { x: 61 }, ['place of the code']],
])('%s is refused', (_, more, put, failed) => expect(judged(more, put).failed).toEqual(failed));

test('white edges need no bleed; on a plate what lies around does not matter', () => {
  expect(judged({ lying: { ...design().lying, bleedMm: 0 }, whiteEdges: true }).failed).toEqual([]);
  expect(judged({ zones: [{ spread: 5, contrast: 12 }] }, { plate: true }).failed).toEqual([]);
});

test('what is its maker’s own is told of and refuses nothing: small type, words near the cut, covered letters, what came along', () => {
  const letter = (x: number, points: number) => ({ x, y: 25, width: 2, height: 2, points });
  expect(judged({ letters: [letter(20, 5.9)] }).noted).toEqual(['type of the design']);
  expect(judged({ letters: [letter(20, 6)] }).noted).toEqual([]);
  expect(judged({ letters: [letter(1, 9)] }).noted).toEqual(['words of the design near the cut']);
  expect(judged({ letters: [letter(60, 9), letter(61, 9)] }).of('COVERED')).toMatchObject({ letters: 2 });
  // Beyond the cut there is nothing to read.
  expect(judged({ letters: [letter(86, 2)] }).noted).toEqual([]);
  expect(judged({ artwork: { ...design().artwork, removed: ['script'] } }).noted).toEqual(['what came along']);
});

test('its lines are held against the ticks by its own words; without any they are not known', () => {
  expect(judged({}).of('ARTWORK_LINES')).toMatchObject({ known: true, read: 2, of: 2, missing: [], foreign: [] });
  const other = judged({ text: 'Ilse Varrow 020 7946 0555 ilse@old.example' }).of('ARTWORK_LINES');
  expect(other).toMatchObject({ missing: ['Direct'], foreign: ['020 7946 0555', 'ilse@old.example'] });
  const unread = judged({ text: '', artwork: { ...design().artwork, kind: 'picture', text: false } });
  expect(unread.of('ARTWORK_LINES')).toMatchObject({ known: false });
  // What is withheld is another check's to refuse, and not told twice.
  expect(judged({ text: '07700 900182' }, { withheld: ['+44 7700 900182'] }).of('ARTWORK_LINES')).toMatchObject({
    foreign: [],
  });
});

// Ways of writing one number that Ofcom's numbers for drama have been given in (common practice, no published source).
test.each(['+44 20 7946 0182', '020 7946 0182', '(020) 7946-0182', '0044.20.7946.0182', '+44 (0)20 7946 0182'])(
  'a number is the same as %s',
  (written) => {
    expect(says(`Call ${written} today`, '+44 20 7946 0182')).toBe(true);
    expect(says(`Call ${written} today`, '+44 20 7946 0183')).toBe(false);
  },
);

test('what is no number is taken for none', () => {
  expect(numbersIn('Since 1931, open 9-17, 1:2000')).toEqual([]);
  expect(says('Tarnhope  Cableways', 'tarnhope cableways')).toBe(says('tarnhope cableways', 'tarnhope cableways'));
});
