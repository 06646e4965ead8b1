import fc from 'fast-check';
import { shownValue } from '@/core/record';
import { anyCard, blocksOf, marksOf, searched } from '../../../tests/fixtures/any-card';
import { shownBlocks, filesOf } from './blocks/block-content';
import {
  addLines,
  applyEdits,
  composeDraft,
  editCell,
  editTicks,
  inverseOf,
  leavingOf,
  lineOf,
  moveLine,
  NOWHERE,
  privacyOf,
  removeLine,
  saidIn,
  CHANNELS,
  type Composition,
  type Draft,
  type Edit,
} from './index';
import { wordsToSay } from './words-to-say';

const composed = (record: Parameters<typeof composeDraft>[0], draft: Draft): Composition => {
  const made = composeDraft(record, draft, 'GB');
  if (!made.ok) throw new Error(made.problem.code);
  return made.value;
};
const after = (draft: Draft, edits: Edit[]): Draft => applyEdits(draft, edits).draft;
const back = (draft: Draft, edits: Edit[]): Draft => after(draft, inverseOf(edits));

test('what a cell of the table emits does just that, and is undone; what stands there already is no edit', () => {
  fc.assert(
    fc.property(anyCard, fc.nat(), fc.nat(), fc.string({ maxLength: 10 }), ({ draft }, first, second, label) => {
      const { lines } = draft;
      const [from, to] = [first % lines.length, second % lines.length];
      const line = lines[from]!;
      const named = editCell(line, 'label', label);
      expect(after(draft, named).lines[from]!.label).toBe(label);
      const ticks = Object.fromEntries(CHANNELS.map((channel) => [channel, !line.ticks[channel]]));
      const ticked = editTicks(line, ticks);
      expect(after(draft, ticked).lines[from]!.ticks).toEqual(ticks);
      expect(editTicks(line, line.ticks)).toEqual([]);
      const moved = moveLine(lines, from, to);
      const order = lines.map(({ detail }) => detail);
      order.splice(to, 0, ...order.splice(from, 1));
      expect(after(draft, moved).lines.map(({ detail }) => detail)).toEqual(order);
      const added = addLines(line.detail, [lineOf('new-1', NOWHERE), lineOf('new-2', NOWHERE)]);
      expect(
        after(draft, added)
          .lines.slice(from + 1, from + 3)
          .map(({ detail }) => detail),
      ).toEqual(['new-1', 'new-2']);
      const removed = removeLine(lines, line.detail);
      expect(after(draft, removed).lines.map(({ detail }) => detail)).not.toContain(line.detail);
      for (const edits of [named, ticked, moved, added, removed])
        expect(back(after(draft, edits), edits)).toEqual(draft);
    }),
    { numRuns: 100 },
  );
});

test('every private value that would leave on a channel is told, and nothing else; what went out so before is not new', () => {
  fc.assert(
    fc.property(anyCard, fc.subarray([...CHANNELS], { minLength: 1 }), ({ record, draft }, channels) => {
      const composition = composed(record, draft);
      const privacy = (detail: Parameters<typeof privacyOf>[0]) => privacyOf(detail, record);
      const told = leavingOf(composition, null, channels, privacy);
      for (const { id, detail, on } of composition.lines) {
        const leaves = on.filter((channel) => channels.includes(channel));
        const why = privacy(detail);
        // How a name is said and one's own words are no secret.
        const warned = why !== null && why !== 'own words' && why !== 'said' && leaves.length > 0;
        const found = told.find((each) => each.id === id);
        expect([id, found?.on ?? []]).toEqual([id, warned ? leaves : []]);
        if (found) expect([found.value, found.isNew]).toEqual([shownValue(detail), true]);
      }
      expect(leavingOf(composition, composition, channels, privacy).filter(({ isNew }) => isNew)).toEqual([]);
      const less = { ...composition, lines: composition.lines.map((line) => ({ ...line, on: [] })) };
      expect(leavingOf(composition, less, channels, privacy).every(({ isNew }) => isNew)).toBe(true);
    }),
    { numRuns: 100 },
  );
});

test('what is asked to be said in a further language is what goes out in words: each answer stands in what is said there, and none of it elsewhere', () => {
  fc.assert(
    fc.property(anyCard, blocksOf, ({ record, draft }, blocks) => {
      const whole: Draft = { ...draft, language: 'en', blocks };
      const asked = wordsToSay(whole, record, 'de');
      const first = composed(record, whole);
      for (const { text } of asked) expect(text.trim()).not.toBe('');
      const answers = Object.fromEntries(
        asked.filter(({ what }) => what !== 'name').map(({ key }, at) => [key, `Antwort${at}`]),
      );
      const both = composed(record, { ...whole, words: { de: answers } });
      const german = JSON.stringify(saidIn(both, 'de'));
      const { further: _further, ...english } = first;
      const { further: __further, ...again } = both;
      expect(again).toEqual(english);
      for (const { key, what } of asked) {
        if (what === 'name') continue;
        const shown = what !== 'block' || JSON.stringify(shownBlocks(blocks, both.lines)).length > 0;
        const cell = key.endsWith('/label') || key.endsWith('/wording');
        const line = cell ? draft.lines.find(({ detail }) => key.startsWith(`${detail}/`)) : undefined;
        // A part of a value is cut from it, so that it may be gone.
        if (shown && line && line.part === null) expect([key, german.includes(answers[key]!)]).toEqual([key, true]);
      }
      // What goes out nowhere is asked for nowhere.
      const hidden = draft.lines.filter(({ ticks }) => CHANNELS.every((channel) => !ticks[channel]));
      const said = searched(JSON.stringify(asked));
      for (const { detail: id } of hidden) {
        const detail = record.details.find((each) => each.id === id);
        const elsewhere =
          detail &&
          draft.lines.some(
            (line) =>
              line.detail !== id &&
              record.details.some(
                (other) => other.id === line.detail && marksOf(other).some((mark) => marksOf(detail).includes(mark)),
              ),
          );
        if (detail && !elsewhere) for (const mark of marksOf(detail)) expect(said).not.toContain(mark);
      }
    }),
    { numRuns: 60 },
  );
});

test('blocks that go out hold something, and every file that they show is asked for', () => {
  fc.assert(
    fc.property(anyCard, blocksOf, ({ record, draft }, blocks) => {
      const { lines } = composed(record, { ...draft, blocks });
      const shown = shownBlocks(blocks, lines);
      expect(shownBlocks(shown, lines)).toEqual(shown);
      expect(
        shownBlocks(
          blocks.map((block) => ({ ...block, on: false })),
          lines,
        ),
      ).toEqual([]);
      const files = filesOf({ blocks: shown, opens: { first: 'page' }, look: draft.look });
      // Names of files are 64 hexadecimal digits.
      const named = new Set(JSON.stringify(shown).match(/(?<=")[0-9a-f]{64}(?=")/g) ?? []);
      expect([...named].filter((hash) => !files.has(hash))).toEqual([]);
    }),
    { numRuns: 100 },
  );
});
