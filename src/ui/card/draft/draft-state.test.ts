import fc from 'fast-check';
import { CHANNELS, editCell, editsBetween, type Draft, type Edit } from '@/core/card';
import type { PersonRecord } from '@/core/record';
import type { CardNow } from '@/core/shown';
import { anyRecord, draftOver } from '../../../../tests/fixtures/any-card';
import { firstState, reduce, sameCell, type DraftState } from './draft-state';

const cardAt = (draft: Draft, record: PersonRecord, version = 1): CardNow =>
  ({ ...draft, version, record, recordVersion: 1 }) as unknown as CardNow;

/** A record and several drafts over it: each step goes from one to the next. */
const steps = anyRecord.chain((record) =>
  fc.record({ record: fc.constant(record), drafts: fc.array(draftOver(record), { minLength: 2, maxLength: 5 }) }),
);
const edited = (state: DraftState, edits: Edit[]) => reduce(state, { do: 'edit', edits });
const walked = (record: PersonRecord, [first, ...others]: Draft[]) =>
  others.reduce((state, draft) => edited(state, editsBetween(state.now, draft)), firstState(cardAt(first!, record)));

test('as many undos as steps lead back to the start, as many redos to the end, and none goes further (property)', () => {
  fc.assert(
    fc.property(steps, ({ record, drafts }) => {
      const start = firstState(cardAt(drafts[0]!, record));
      const end = walked(record, drafts);
      let state = end;
      const times = end.past.length;
      for (let at = 0; at <= times; at += 1) state = reduce(state, { do: 'undo' });
      expect([state.now, state.past, state.future.length]).toEqual([start.now, [], times]);
      for (let at = 0; at <= times; at += 1) state = reduce(state, { do: 'redo' });
      expect([state.now, state.past, state.future]).toEqual([end.now, end.past, []]);
    }),
    { numRuns: 100 },
  );
});

test('a new step ends what could be redone; a step that changes nothing is none (property)', () => {
  fc.assert(
    fc.property(steps, ({ record, drafts }) => {
      const end = walked(record, drafts);
      expect(edited(end, [])).toBe(end);
      const back = reduce(end, { do: 'undo' });
      const line = back.now.lines[0]!;
      const next = edited(back, editCell(line, 'label', `${line.label ?? ''}zq`));
      if (next !== back) expect(next.future).toEqual([]);
    }),
    { numRuns: 60 },
  );
});

test('what somebody else saved comes in, ours goes on top cell by cell, and no cell of theirs is taken away unseen (property)', () => {
  fc.assert(
    fc.property(steps, fc.constantFrom(...CHANNELS), ({ record, drafts }, channel) => {
      const [first, theirs] = drafts as [Draft, Draft];
      const start = firstState(cardAt(first, record));
      const line = first.lines.at(-1)!;
      const ours = edited(start, editCell(line, channel, !line.ticks[channel]));
      const after = reduce(ours, { do: 'theirs', card: cardAt(theirs, record, 2) });
      expect([after.version, after.saved.lines.length, after.theirs]).toEqual([2, theirs.lines.length, 1]);
      const [was, is, shown] = [first, theirs, after.now].map(
        ({ lines }) => lines.find(({ detail }) => detail === line.detail)!.ticks[channel],
      );
      // Ours where they left the cell, or set the same; theirs and a clash where both set it otherwise.
      if (is === was) expect([shown, after.clashes]).toEqual([!was, []]);
      else expect(shown).toBe(is);
      // Everything else is as they have it.
      const others = ({ lines }: Draft) =>
        lines.map((each) =>
          each.detail === line.detail ? { ...each, ticks: { ...each.ticks, [channel]: null } } : each,
        );
      expect(others(after.now)).toEqual(others(theirs));
    }),
    { numRuns: 100 },
  );
});

test('of a label that both set theirs stands until somebody decides; whichever it is, undo leads back (property)', () => {
  fc.assert(
    fc.property(steps, fc.boolean(), ({ record, drafts }, mine) => {
      const [first] = drafts as [Draft];
      const line = first.lines.at(-1)!;
      const ours = edited(firstState(cardAt(first, record)), editCell(line, 'label', 'Ours zq'));
      const labelled = (label: string): Draft => ({
        ...first,
        lines: first.lines.map((each) => (each === line ? { ...each, label } : each)),
      });
      const after = reduce(ours, { do: 'theirs', card: cardAt(labelled('Theirs zq'), record, 2) });
      const labelOf = (state: DraftState) => state.now.lines.find(({ detail }) => detail === line.detail)!.label;
      expect([labelOf(after), after.clashes.length]).toEqual(['Theirs zq', 1]);
      const [clash] = after.clashes as [Edit];
      expect(sameCell(clash, ours.past[0]![0]!)).toBe(true);
      const settled = reduce(after, { do: 'settled', clash, mine });
      expect([labelOf(settled), settled.clashes]).toEqual([mine ? 'Ours zq' : 'Theirs zq', []]);
      if (mine) expect(labelOf(reduce(settled, { do: 'undo' }))).toBe('Theirs zq');
    }),
    { numRuns: 60 },
  );
});

test('saving, a fault and a card that is gone change nothing of what was typed', () => {
  const [record] = fc.sample(anyRecord, { numRuns: 1, seed: 7 }) as [PersonRecord];
  const [draft] = fc.sample(draftOver(record), { numRuns: 1, seed: 7 }) as [Draft];
  const line = draft.lines.at(-1)!;
  const typed = edited(firstState(cardAt(draft, record)), editCell(line, 'label', 'Typed zq'));
  const saving = reduce(typed, { do: 'saving' });
  const failed = reduce(saving, { do: 'failed', problem: { code: 'NOT_REACHED' } as never });
  expect([saving.saving, failed.saving, failed.problem?.code]).toEqual([true, false, 'NOT_REACHED']);
  const saved = reduce(failed, { do: 'saved', draft: failed.now, version: 2, at: 5 });
  expect([saved.saved, saved.version, saved.savedAt, saved.problem]).toEqual([typed.now, 2, 5, null]);
  for (const state of [saving, failed, saved, reduce(typed, { do: 'gone' })]) expect(state.now).toBe(typed.now);
});
