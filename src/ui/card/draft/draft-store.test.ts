import { editCard, editCell, lineOf, NO_PARTS, NOWHERE, type Draft } from '@/core/card';
import { err, ok, type Problem, type Result } from '@/core/errors';
import type { CardNow } from '@/core/shown';
import { createDraftStore } from './draft-store';

const record = {
  name: { written: '', prefixes: [], given: 'Ilse', family: 'Varrow', suffixes: [] },
  details: [],
  kept: [],
};
const draft: Draft = {
  ...NO_PARTS,
  audience: 'Work',
  language: null,
  lines: [lineOf('a', NOWHERE), lineOf('b', NOWHERE)],
};
const cardAt = (version: number, more: Partial<Draft> = {}): CardNow =>
  ({ ...draft, ...more, version, record, recordVersion: 1 }) as unknown as CardNow;

/** A server with one card that somebody else may change, whose answers come when they are let go. */
function open() {
  let card = cardAt(1);
  const sent: (Draft & { baseVersion: number })[] = [];
  let hold: Promise<void> | null = null;
  let fault: Problem | null = null;
  const store = createDraftStore(card, {
    read: () => Promise.resolve(ok(card)),
    save: async ({ baseVersion, ...now }): Promise<Result<{ version: number }>> => {
      sent.push({ baseVersion, ...now });
      await hold;
      if (fault) return err(fault);
      if (baseVersion !== card.version) return err({ code: 'CARD_CHANGED', version: card.version });
      card = cardAt(baseVersion + 1, now);
      return ok({ version: card.version });
    },
  });
  return {
    store,
    sent,
    /** Somebody else saves. */
    theirs: (more: Partial<Draft>) => (card = cardAt(card.version + 1, { ...card, ...more })),
    /** Saves wait until the answer is called. */
    holdSaves: () => {
      let go = () => {};
      hold = new Promise((resume) => (go = resume));
      return () => ((hold = null), go());
    },
    fail: (problem: Problem | null) => (fault = problem),
    kept: () => card,
  };
}

const tick = (store: ReturnType<typeof open>['store'], id: string, on = true) =>
  store.edit(
    editCell(
      store.get().now.lines.find(({ detail }) => detail === id)!,
      'page',
      on,
    ),
  );

test('one save is under way at a time; what is edited meanwhile is saved after it, and flush waits for all of it', async () => {
  const { store, sent, holdSaves, kept } = open();
  tick(store, 'a');
  const go = holdSaves();
  void store.save();
  // The same save, not a second one on the same version: that one would be refused.
  void store.save();
  store.edit(editCard(store.get().now, 'audience', 'Fair'));
  const flushed = store.flush();
  expect(sent).toHaveLength(1);
  go();
  expect(await flushed).toBe(3);
  expect(sent.map(({ baseVersion }) => baseVersion)).toEqual([1, 2]);
  expect(kept()).toMatchObject({ audience: 'Fair', version: 3 });
  expect(store.get().now).toBe(store.get().saved);
});

test('a flush that finds the card changed takes theirs in and saves ours on top', async () => {
  const { store, theirs, kept } = open();
  tick(store, 'a');
  theirs({ audience: 'Suppliers' });
  expect(await store.flush()).toBe(3);
  expect(kept()).toMatchObject({ audience: 'Suppliers' });
  expect(kept().lines[0]!.ticks.page).toBe(true);
});

test('the same cell set by two: theirs stands, ours waits; put back it is saved, and undo leads to theirs', async () => {
  const { store, theirs, kept } = open();
  const audience = (to: string) => store.edit(editCard(store.get().now, 'audience', to));
  audience('Mine');
  theirs({ audience: 'Theirs' });
  await store.flush();
  const [clash] = store.get().clashes;
  expect(store.get().now.audience).toBe('Theirs');
  expect(clash).toEqual({ edit: 'card', cell: 'audience', from: 'Work', to: 'Mine' });
  store.act({ do: 'settled', clash: clash!, mine: true });
  expect(store.get()).toMatchObject({ clashes: [], now: { audience: 'Mine' } });
  await store.flush();
  expect(kept().audience).toBe('Mine');
  store.act({ do: 'undo' });
  expect(store.get().now.audience).toBe('Theirs');
});

test('an edit made on what is no longer there waits for a decision instead of taking theirs away', async () => {
  const { store, theirs } = open();
  // The hand moved on the cell as it was drawn; theirs came in between.
  const late = editCard(store.get().now, 'audience', 'Mine');
  theirs({ audience: 'Theirs' });
  await store.merge();
  store.edit(late);
  expect(store.get()).toMatchObject({ now: { audience: 'Theirs' }, clashes: late, past: [] });
});

test('a whole draft that somebody chose on what they saw leaves what others did meanwhile', async () => {
  const { store, theirs } = open();
  const seen = store.get().now;
  theirs({ audience: 'Theirs' });
  await store.merge();
  store.change(seen, { ...seen, language: 'de' });
  expect(store.get().now).toMatchObject({ audience: 'Theirs', language: 'de' });
});

test('undo and redo go through cells, order, and lines that came and went; a new edit ends what could be redone', () => {
  const { store } = open();
  const change = (to: (now: Draft) => Partial<Draft>) =>
    store.change(store.get().now, { ...store.get().now, ...to(store.get().now) });
  tick(store, 'a');
  change(({ lines }) => ({ lines: [...lines].reverse() }));
  change(({ lines }) => ({ lines: [...lines, lineOf('c', NOWHERE)] }));
  const whole = store.get().now;
  for (let steps = 0; steps < 4; steps += 1) store.act({ do: 'undo' });
  expect(store.get()).toMatchObject({ now: draft, past: [] });
  for (let steps = 0; steps < 4; steps += 1) store.act({ do: 'redo' });
  expect(store.get().now).toEqual(whole);
  store.act({ do: 'undo' });
  tick(store, 'b');
  expect(store.get().future).toEqual([]);
  // An edit that changes nothing is none.
  const before = store.get();
  store.edit([]);
  store.change(before.now, { ...before.now });
  expect(store.get()).toBe(before);
});

test('a save that fails is told and tried again; a card that is gone is not saved any more', async () => {
  const { store, fail, sent } = open();
  tick(store, 'a');
  fail({ code: 'OFFLINE' });
  expect(await store.flush()).toBeNull();
  expect(store.get()).toMatchObject({ problem: { code: 'OFFLINE' }, saving: false });
  fail(null);
  expect(await store.flush()).toBe(2);
  expect(store.get().problem).toBeNull();
  fail({ code: 'NOT_FOUND' });
  tick(store, 'a', false);
  expect(await store.flush()).toBeNull();
  expect(store.get().gone).toBe(true);
  const asked = sent.length;
  expect(await store.flush()).toBeNull();
  expect(sent).toHaveLength(asked);
});

test('what a browser kept of an earlier visit comes back, and what clashes with theirs waits', () => {
  const { store } = open();
  const [edit] = editCard({ ...draft, audience: 'Before' }, 'audience', 'Mine');
  const ticked = editCell(draft.lines[0]!, 'file', true);
  store.act({
    do: 'restored',
    memory: { edits: [edit!, ...ticked], past: [ticked], future: [], clashes: [], typing: null },
  });
  expect(store.get()).toMatchObject({ now: { audience: 'Work' }, clashes: [edit], past: [ticked] });
  expect(store.get().now.lines[0]!.ticks.file).toBe(true);
});
