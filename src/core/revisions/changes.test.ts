import fc from 'fast-check';
import { composeDraft, freshBlock, NAME_LINE, type Composition, type Draft } from '@/core/card';
import type { PersonRecord } from '@/core/record';
import { anyCard } from '../../../tests/fixtures/any-card';
import { changesSince, compareCompositions } from './index';

const composed = (record: PersonRecord, draft: Draft): Composition => {
  const made = composeDraft(record, draft, 'GB');
  if (!made.ok) throw new Error(made.problem.code);
  return made.value;
};
const differing = (before: Composition, now: Composition) =>
  compareCompositions(before, now).filter(({ same }) => !same);

test('of the same card nothing changed, in words and side by side (property)', () => {
  fc.assert(
    fc.property(anyCard, ({ record, draft }) => {
      const [one, other] = [composed(record, draft), composed(structuredClone(record), structuredClone(draft))];
      expect(changesSince(one, other)).toEqual([]);
      expect(differing(one, other)).toEqual([]);
    }),
    { numRuns: 60 },
  );
});

test('whatever is done to a card is told to its publisher, and stands side by side (property)', () => {
  const acts: Record<string, (draft: Draft) => Draft> = {
    'a label': (draft) => ({ ...draft, lines: draft.lines.map((line) => ({ ...line, label: 'Quite another' })) }),
    'an order': (draft) => ({ ...draft, lines: [draft.lines[0]!, ...draft.lines.slice(1).reverse()] }),
    'a language': (draft) => ({ ...draft, language: draft.language === 'pl' ? null : 'pl' }),
    'a look': (draft) => ({ ...draft, look: { ...draft.look, palette: { ...draft.look.palette, act: '#123456' } } }),
    'a block': (draft) => ({
      ...draft,
      blocks: [{ ...freshBlock('about', () => 'b1'), title: 'About us', text: 'Ropes' }],
    }),
    'what it opens with': (draft) => ({ ...draft, opens: { first: 'file' } }),
    'a gap': (draft) => ({ ...draft, lines: draft.lines.map((line) => ({ ...line, gap: !line.gap })) }),
  };
  fc.assert(
    fc.property(anyCard, fc.constantFrom(...Object.keys(acts)), ({ record, draft }, act) => {
      const [before, now] = [composed(record, draft), composed(record, acts[act]!(draft))];
      const told = changesSince(before, now);
      const isSame = JSON.stringify(before) === JSON.stringify(now);
      expect([act, told.length > 0]).toEqual([act, !isSame]);
      // And the way back is told as well.
      expect(changesSince(now, before).length > 0).toBe(!isSame);
      // Side by side stands what is said; how far apart lines stand is seen on the page.
      if (act !== 'a gap') expect([act, differing(before, now).length > 0]).toEqual([act, !isSame]);
    }),
    { numRuns: 200 },
  );
});

test('a tick is told with its line and channel, and only where the card has that channel (property)', () => {
  fc.assert(
    fc.property(
      anyCard,
      fc.nat(),
      fc.constantFrom('page', 'file', 'code', 'tag'),
      ({ record, draft }, which, channel) => {
        const others = draft.lines.filter(({ detail }) => detail !== NAME_LINE);
        const { detail, ticks } = others[which % others.length]!;
        const toggled: Draft = {
          ...draft,
          lines: draft.lines.map((line) =>
            line.detail === detail ? { ...line, ticks: { ...line.ticks, [channel]: !line.ticks[channel] } } : line,
          ),
        };
        const [before, now] = [composed(record, draft), composed(record, toggled)];
        const told = changesSince(before, now, [channel]);
        expect(told).toHaveLength(1);
        const all = { page: 'page', file: 'contact file', code: 'code', tag: 'tag' } as const;
        if (before.lines.length === now.lines.length) expect(told[0]!.what).toContain(all[channel]);
        const elsewhere = (['page', 'file', 'code', 'tag'] as const).filter((each) => each !== channel);
        const wasAway = Object.values(ticks).every((on) => !on);
        const isAway = wasAway || elsewhere.every((each) => !ticks[each]);
        // Where the line comes or goes altogether, that is told whatever the channels.
        if (!isAway) expect(changesSince(before, now, elsewhere)).toEqual([]);
        const [row] = differing(before, now);
        expect(row!.was === null || row!.is === null || row!.was.on.join() !== row!.is.on.join()).toBe(true);
      },
    ),
    { numRuns: 200 },
  );
});
