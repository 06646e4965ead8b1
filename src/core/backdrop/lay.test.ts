import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { composeDraft, CompositionSchema, linesOn, squeeze } from '@/core/card';
import { createTypesetter, type FaceItem, type Typesetter } from '@/core/face';
import { loadWords } from '@/core/messages';
import { drawCode, PLAIN_STYLE, symbolFor } from '@/core/qr';
import { shownValue, writtenName } from '@/core/record';
import { anyCard } from '../../../tests/fixtures/any-card';
import { CODE_SIZE_NAMES, FIRST_BACKDROP, layBackdrop, type Backdrop } from './index';

let typesetter: Typesetter;
beforeAll(async () => {
  typesetter = createTypesetter(await import('harfbuzzjs'), (family, weight) =>
    readFileSync(`assets/fonts/${family}/${weight}.ttf`),
  );
  await loadWords('en');
});

/** Whoever sits there, in thirds of the picture: head and shoulders take the middle one (common practice, no published source). */
const MIDDLE = { from: 1920 / 3, to: (1920 * 2) / 3 };
const PICTURE = { hash: 'a'.repeat(64), width: 2400, height: 1600 };

const anyBackdrop: fc.Arbitrary<Backdrop> = fc.record({
  corner: fc.constantFrom('left', 'right'),
  code: fc.constantFrom(...CODE_SIZE_NAMES),
  picture: fc.constantFrom(null, PICTURE),
});
const code = drawCode(symbolFor('HTTPS://CARDS.EXAMPLE/H/7K3M9QWD'), PLAIN_STYLE);
const of = <Kind extends FaceItem['kind']>(items: FaceItem[], kind: Kind) =>
  items.filter((item): item is Extract<FaceItem, { kind: Kind }> => item.kind === kind);

test('whatever a card says: what is ticked for the backdrop stands on it and nothing else, beside whoever sits there, or it is told that it has no room', () => {
  fc.assert(
    fc.property(anyCard, anyBackdrop, fc.boolean(), ({ record, draft }, backdrop, pictured) => {
      const made = composeDraft(record, draft, 'GB');
      if (!made.ok) throw new Error(made.problem.code);
      const composition = made.value;
      const sizes = pictured ? { width: 900, height: 300 } : null;
      const order = { composition, language: 'en', backdrop, code, pictures: { photo: sizes, logo: sizes } };
      const { items, cut, smallestType } = layBackdrop(order, typesetter);
      const texts = of(items, 'text');
      const said = squeeze(texts.map(({ says }) => says).join('\n'));
      const ticked = linesOn(composition, 'backdrop').filter(
        ({ detail }) => detail.kind !== 'photo' && detail.kind !== 'logo',
      );
      expect(said).toContain(squeeze(writtenName(composition.name)));
      for (const { detail } of ticked) expect(said).toContain(squeeze(shownValue(detail)));
      expect(smallestType).toBeGreaterThanOrEqual(27);
      if (cut.length > 0) return;
      const [symbol] = of(items, 'code');
      const right = backdrop.corner === 'right';
      expect([symbol!.x > MIDDLE.to, symbol!.x + symbol!.width < MIDDLE.from]).toEqual([right, !right]);
      for (const { x, y, text, shifts } of texts) {
        expect([y >= 60, y + text.height <= 1080 - 60]).toEqual([true, true]);
        text.widths.forEach((width, line) => {
          const [from, to] = [x + shifts[line]!, x + shifts[line]! + width];
          expect([from >= 60, to <= 1920 - 60]).toEqual([true, true]);
          expect(right ? to <= MIDDLE.from : from >= MIDDLE.to).toBe(true);
        });
      }
      expect(of(items, 'picture').length).toBeLessThanOrEqual(2);
    }),
    { numRuns: 60 },
  );
});

test('words stand over a photo on a sheet of their own, in the ink that reads on it', () => {
  const name = { prefix: '', given: 'Ilse', additional: '', family: 'Varrow', suffix: '', written: '' };
  const composition = CompositionSchema.parse({ name, lines: [] });
  const laid = (picture: Backdrop['picture']) =>
    layBackdrop(
      {
        composition,
        language: 'en',
        backdrop: { ...FIRST_BACKDROP, picture },
        code,
        pictures: { photo: null, logo: null },
      },
      typesetter,
    ).items;
  const { sheet, ink } = composition.look.palette;
  const [panel] = of(laid(PICTURE), 'sheet').filter(({ colour }) => colour === sheet);
  const [text] = of(laid(PICTURE), 'text');
  expect(text!.colour).toBe(ink);
  expect([panel!.x < text!.x, panel!.y < text!.y, panel!.y + panel!.height > text!.y + text!.text.height]).toEqual([
    true,
    true,
    true,
  ]);
  expect(of(laid(null), 'sheet').some(({ x }) => x === panel!.x)).toBe(false);
});
