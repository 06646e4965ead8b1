import fc from 'fast-check';
import { composeDraft, linesOn, type Composition } from '@/core/card';
import { RANGES } from '@/core/look';
import { shownValue } from '@/core/record';
import { anyCard, blocksOf } from '../../../tests/fixtures/any-card';
import { inBlocks } from './blocks';
import { areasOf, firstScreenOf } from './index';

const anyComposition: fc.Arbitrary<Composition> = fc
  .tuple(anyCard, blocksOf, fc.nat())
  .map(([{ record, draft }, blocks, at]) => {
    // Something else than the page opens first, now and then.
    const block = blocks[at % (blocks.length + 1)];
    const opens = block ? { first: 'block' as const, block: block.id } : { first: 'page' as const };
    const made = composeDraft(record, { ...draft, blocks, opens }, 'GB');
    return made.ok ? made.value : null;
  })
  .filter((made): made is Composition => made !== null);

const HEAD = new Set(['title', 'role', 'organisation', 'pronouns', 'photo', 'logo']);

test('each line that is ticked for the page stands on it once: in the head, in a block, as the alarm or in the list (property)', () => {
  fc.assert(
    fc.property(anyComposition, (composition) => {
      const areas = areasOf(composition);
      const lines = linesOn(composition, 'page');
      const blocks = inBlocks(composition.blocks, lines);
      const head = [...areas.role, ...areas.firm, ...areas.pronouns];
      for (const line of lines) {
        const places = [
          HEAD.has(line.detail.kind) &&
            (line.detail.kind === 'photo' || line.detail.kind === 'logo' || head.includes(shownValue(line.detail))),
          blocks.has(line.id),
          areas.alarm?.id === line.id,
          areas.lines.some(({ id }) => id === line.id),
        ];
        expect([line.detail.kind, places.filter(Boolean).length]).toEqual([line.detail.kind, 1]);
      }
      // And nothing of a line that is not.
      const ticked = new Set(lines.map(({ id }) => id));
      for (const { id } of areas.lines) expect(ticked.has(id)).toBe(true);
    }),
    { numRuns: 300 },
  );
});

test('each block stands in one place, what opens first above everything; a form that asks never does (property)', () => {
  fc.assert(
    fc.property(anyComposition, (composition) => {
      const { first, lead, before, after } = areasOf(composition);
      const placed = [first, lead, ...before, ...after].filter((each) => each !== null);
      expect(placed.map(({ id }) => id).sort()).toEqual(
        composition.blocks
          .filter(({ kind }) => kind !== 'action bar')
          .map(({ id }) => id)
          .sort(),
      );
      expect(first?.kind).not.toBe('reply form');
      if (composition.opens.first === 'page') expect(first).toBeNull();
      // Their order is the card's.
      const orderOf = (blocks: { id: string }[]) =>
        blocks.map(({ id }) => composition.blocks.findIndex((each) => each.id === id));
      for (const each of [before, after]) expect(orderOf(each)).toEqual([...orderOf(each)].sort((a, b) => a - b));
    }),
    { numRuns: 300 },
  );
});

test('a first screen brings three small pictures at most, and the letters of its largest words that its family has, each once (property)', () => {
  const isIn = (letter: string, ranges: string) =>
    ranges.split(',').some((span) => {
      const [from, to] = span
        .trim()
        .replace('U+', '')
        .split('-')
        .map((end) => Number.parseInt(end, 16)) as [number, number?];
      const point = letter.codePointAt(0)!;
      return from <= point && point <= (to ?? from);
    });
  fc.assert(
    fc.property(
      anyComposition,
      fc.constantFrom('en' as const, 'ar' as const),
      fc.boolean(),
      (composition, language, photo) => {
        const wants = firstScreenOf(composition, language, { photo });
        expect(wants.pictures.length).toBeLessThanOrEqual(3);
        for (const { name, width, height } of wants.pictures) {
          expect(name).toMatch(/^photo$|^[0-9a-f]{64}$/);
          // No wider than a broad phone.
          expect([width <= 430, height > 0]).toEqual([true, true]);
        }
        const letters = [...wants.letters];
        expect([...letters].sort()).toEqual([...new Set(letters)].sort());
        const arabic = wants.family === 'vazirmatn';
        for (const letter of letters)
          expect([
            letter,
            arabic ? isIn(letter, RANGES.arabic) : isIn(letter, `${RANGES.latin},${RANGES['latin-ext']}`),
          ]).toEqual([letter, true]);
        for (const letter of areasOf(composition).name)
          if (!arabic && /[a-z]/i.test(letter)) expect(wants.letters).toContain(letter);
      },
    ),
    { numRuns: 150 },
  );
});
