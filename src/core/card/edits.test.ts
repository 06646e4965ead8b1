import fc from 'fast-check';
import { applyEdits, editsBetween, inverseOf } from './edits';
import type { Block, Words } from './blocks/blocks';
import { lineOf } from './card';
import { NO_PARTS } from './compose';
import { NOWHERE } from './first-ticks';
import type { Draft, Line } from './schema';

const PLAIN = { ...NO_PARTS, audience: 'Work', language: null };
const about = (id: string, text: string): Block => ({ kind: 'about', id, on: true, before: false, title: '', text });
const blocks = () =>
  fc
    .shuffledSubarray(['x', 'y', 'z'])
    .chain((ids) => fc.tuple(...ids.map((id) => fc.constantFrom('', 'one', 'two').map((text) => about(id, text)))));
const words = () =>
  fc.constantFrom<Words>(
    {},
    { de: {} },
    { de: { 'a/label': 'Büro' } },
    { ar: { 'x/text': 'نبذة' }, de: { 'a/label': 'Stand' } },
  );

/** Drafts over the same few lines, so that two of them differ in cells, order, and lines that came or went. */
const line = (id: string) =>
  fc
    .record({
      label: fc.constantFrom(null, '', 'Desk', 'Stand'),
      wording: fc.constantFrom(null, 'one', 'two'),
      page: fc.boolean(),
      gap: fc.boolean(),
    })
    .map(({ label, wording, page, gap }): Line => ({ ...lineOf(id, { ...NOWHERE, page }), label, wording, gap }));
const draft: fc.Arbitrary<Draft> = fc
  .shuffledSubarray(['a', 'b', 'c', 'd', 'e', 'f'], { minLength: 1 })
  .chain((ids) => fc.tuple(...ids.map(line)))
  .chain((lines) =>
    fc.record({ audience: fc.constantFrom('Work', 'Fair'), blocks: blocks(), words: words() }).map((more): Draft => ({
      ...PLAIN,
      ...more,
      lines,
    })),
  );

test('edits lead from one draft to the other, and their inverse back (property)', () => {
  fc.assert(
    fc.property(draft, draft, (a, b) => {
      const edits = editsBetween(a, b);
      expect(applyEdits(a, edits)).toEqual({ draft: b, refused: [] });
      expect(applyEdits(b, inverseOf(edits))).toEqual({ draft: a, refused: [] });
    }),
    { numRuns: 500 },
  );
});

test('what two people edit in different cells comes together whoever is first; the same cell is refused, theirs stays', () => {
  fc.assert(
    fc.property(fc.tuple(line('a'), line('b'), line('c')), line('a'), line('b'), (lines, ours, theirs) => {
      const base: Draft = { ...PLAIN, lines };
      const mine = { ...base, lines: [ours, lines[1], lines[2]] };
      const other = { ...base, lines: [lines[0], theirs, lines[2]] };
      const both = { ...base, lines: [ours, theirs, lines[2]] };
      expect(applyEdits(other, editsBetween(base, mine))).toEqual({ draft: both, refused: [] });
      expect(applyEdits(mine, editsBetween(base, other))).toEqual({ draft: both, refused: [] });
    }),
  );
  const base: Draft = { ...PLAIN, lines: [lineOf('a', NOWHERE)] };
  const worded = (wording: string) => ({ ...base, lines: [{ ...base.lines[0]!, wording }] });
  const { draft: merged, refused } = applyEdits(worded('theirs'), editsBetween(base, worded('mine')));
  expect(merged).toEqual(worded('theirs'));
  expect(refused).toEqual([{ edit: 'cell', line: 'a', cell: 'wording', from: null, to: 'mine' }]);
});

test('a line that somebody moved keeps its place beside its neighbour when others came and went meanwhile', () => {
  const of = (...ids: string[]): Draft => ({
    ...PLAIN,
    lines: ids.map((id) => lineOf(id, NOWHERE)),
  });
  const mine = editsBetween(of('a', 'b', 'c', 'd'), of('a', 'd', 'b', 'c'));
  const ids = (made: Draft) => made.lines.map(({ detail }) => detail).join('');
  expect(ids(applyEdits(of('a', 'b', 'x', 'c', 'd'), mine).draft)).toBe('adbxc');
  expect(ids(applyEdits(of('b', 'c', 'd'), mine).draft)).toBe('dbc');
});

test('two people on two blocks come together, on the same block theirs stays and ours is told', () => {
  const base: Draft = { ...PLAIN, lines: [], blocks: [about('x', ''), about('y', '')] };
  const mine = { ...base, blocks: [about('x', 'mine'), about('y', '')] };
  const theirs = { ...base, blocks: [about('y', 'theirs'), about('x', '')] };
  expect(applyEdits(theirs, editsBetween(base, mine)).draft.blocks).toEqual([about('y', 'theirs'), about('x', 'mine')]);
  const same = { ...base, blocks: [about('x', 'theirs'), about('y', '')] };
  const { draft: kept, refused } = applyEdits(same, editsBetween(base, mine));
  expect(kept).toEqual(same);
  expect(refused).toEqual([{ edit: 'block', block: 'x', from: about('x', ''), to: about('x', 'mine') }]);
});
