import fc from 'fast-check';
import { composeDraft, linesOn } from '@/core/card';
import { FIRST_LOOK } from '@/core/look';
import { shownValue, writtenName } from '@/core/record';
import { anyCard, marksOf, searched } from '../../../tests/fixtures/any-card';
import { briefFiles } from './brief';
import { FIRST_PIECE, SIZE_NAMES, trimOf, type Piece } from './index';

const code = { widthMm: 17, moduleMm: 0.5, modules: 34 };
const rest = { sentence: 'Ride with us', link: 'HTTPS://CARDS.EXAMPLE/H/7K3M9QWD', code, inks: [] };
const textOf = (files: ReturnType<typeof briefFiles>, name: string) => files.find((each) => each.name === name)!.text;

test('a designer is told what is ticked for paper and nothing else of anybody (property)', () => {
  fc.assert(
    fc.property(
      anyCard,
      fc.constantFrom('en' as const, 'de' as const, 'ar' as const),
      ({ record, draft }, language) => {
        const made = composeDraft(record, draft, 'GB');
        if (!made.ok) return;
        const composition = made.value;
        const all = searched(
          briefFiles({ composition, language, piece: FIRST_PIECE, ...rest })
            .map(({ text }) => text)
            .join('\n'),
        );
        const shown = linesOn(composition, 'print');
        for (const { detail } of shown)
          for (const mark of marksOf(detail)) expect([mark, all.includes(mark)]).toEqual([mark, true]);
        const out = new Set(shown.map(({ id }) => id));
        const said = new Set(
          [writtenName(composition.name), ...shown.map(({ detail }) => shownValue(detail))].flatMap(
            (each) => each.match(/zq[a-z]{6}/g) ?? [],
          ),
        );
        for (const detail of record.details)
          if (!out.has(detail.id))
            for (const mark of marksOf(detail))
              if (!said.has(mark)) expect([mark, all.includes(mark)]).toEqual([mark, false]);
        // One line each, so that a table of them can be pasted.
        expect(
          textOf(briefFiles({ composition, language, piece: FIRST_PIECE, ...rest }), 'texts.txt')
            .trimEnd()
            .split('\n'),
        ).toHaveLength(shown.length + 1 + 3);
      },
    ),
    { numRuns: 100 },
  );
});

test('measures are those of the piece with three millimetres of bleed all round, and the least that a code may be', () => {
  const composition = {
    look: FIRST_LOOK,
    lines: [],
    blocks: [],
    further: {},
    name: { given: 'Ilse', family: 'Varrow' },
  } as never;
  for (const size of SIZE_NAMES) {
    const piece: Piece = { ...FIRST_PIECE, size };
    const { width, height } = trimOf(piece);
    const measures = textOf(briefFiles({ composition, language: 'en', piece, ...rest }), 'measures.txt');
    const numbers = [...measures.matchAll(/([\d.]+) mm/g)].map(([, number]) => Number(number));
    expect(numbers.slice(0, 5)).toEqual(
      [width, height, 3, width + 6, height + 6].map((each) => Math.round(each * 100) / 100),
    );
    expect(measures).toContain('34 modules of 0.5 mm');
  }
});

test('a colour that the house has inks for is told by them, with its spot colour; all others as they are on screen', () => {
  const composition = {
    look: FIRST_LOOK,
    lines: [],
    blocks: [],
    further: {},
    name: { given: 'Ilse', family: 'Varrow' },
  } as never;
  const { band, ink } = FIRST_LOOK.palette;
  const inks = [{ colour: band, cmyk: [80, 45, 65, 50], spot: 'Moor 7' }] as never;
  const colours = textOf(
    briefFiles({ composition, language: 'en', piece: FIRST_PIECE, ...rest, inks }),
    'colours.txt',
  ).split('\n');
  expect(colours).toContain(`band: ${band} (sRGB); C M Y K 80 45 65 50 %; spot colour Moor 7`);
  expect(colours).toContain(`ink: ${ink} (sRGB)`);
});
