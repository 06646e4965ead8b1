import fc from 'fast-check';
import { lineOf, NOWHERE, PAGE_AND_FILE } from '@/core/card';
import { FIRST_LOOK } from '@/core/look';
import type { Detail, PersonRecord } from '@/core/record';
import { changedCard, changedDetails, readChange, TICKED_CHANNELS, withDetails, type Change } from './change';

const name = { prefix: '', given: 'Ilse', additional: '', family: 'Varrow', suffix: '', written: '' };
const common = { label: '', preferred: false };
const phone = (id: string, number: string, uses: ('work' | 'mobile' | 'home')[]): Detail => ({
  kind: 'phone',
  id,
  ...common,
  number,
  uses,
});
const link = (id: string, url: string): Detail => ({ kind: 'link', id, ...common, url, uses: ['work'] });
const title = (id: string, text: string): Detail => ({ kind: 'title', id, ...common, text });
const record = (...details: Detail[]): PersonRecord => ({ name, details, kept: [] });
// Numbers that Ofcom reserves for drama.
const WORK = phone('w', '+442079460182', ['work']);
const OWN = phone('m', '+447700900182', ['mobile']);

test('a link is put in the place of another however it was typed, or added once to whoever has it not yet', () => {
  const read = readChange({ of: 'link', from: 'TARNHOPE.example/old', to: 'tarnhope.example/new', label: '' });
  if (!read.ok) throw new Error(read.problem.code);
  const old = record(link('a', 'https://tarnhope.example/old'), link('b', 'https://tarnhope.example/'));
  const changed = changedDetails(read.value, old);
  expect(changed.map(({ id, is }) => [id, is])).toEqual([['a', { ...link('a', 'https://tarnhope.example/new') }]]);
  const next = withDetails(old, changed);
  expect(changedDetails(read.value, next)).toEqual([]);
  const add: Change = { of: 'link', from: null, to: 'https://fair.example/', label: 'Fair' };
  const added = changedDetails(add, next);
  expect(added).toMatchObject([{ was: null, is: { kind: 'link', label: 'Fair', url: 'https://fair.example/' } }]);
  const both = withDetails(next, added);
  expect([both.details.length, changedDetails(add, both)]).toEqual([3, []]);
  // What is added goes out with page and file, of whatever else the ticks stay.
  const lines = [{ ...lineOf('a', NOWHERE) }, { ...lineOf('b', PAGE_AND_FILE) }];
  const card = changedCard(add, { lines, look: FIRST_LOOK }, both, [added[0]!.id])!;
  const own = card.lines.filter(({ detail }) => detail !== 'name');
  expect(own.map(({ detail, ticks }) => [detail, ticks.page, ticks.file])).toEqual([
    ['a', false, false],
    ['b', true, true],
    [added[0]!.id, true, true],
  ]);
});

test('what cannot be read, and a thing put in its own place, is no change', () => {
  for (const wanted of [
    { of: 'link', from: null, to: 'javascript:alert(1)', label: '' },
    { of: 'link', from: 'https://a.example', to: 'a.example', label: '' },
    { of: 'title', from: null, to: '  ' },
  ] as Change[])
    expect(readChange(wanted).ok).toBe(false);
});

test('titles change for those who have that title, or for everybody', () => {
  const of = record(title('t', 'Rigger'), title('u', 'Diver'));
  expect(changedDetails({ of: 'title', from: 'Rigger', to: 'Splicer' }, of).map(({ id }) => id)).toEqual(['t']);
  expect(changedDetails({ of: 'title', from: null, to: 'Splicer' }, of).map(({ id }) => id)).toEqual(['t', 'u']);
});

test('a layout that is chosen for many is the card’s own from then on', () => {
  const look = { ...FIRST_LOOK, layout: 'trod' as const, follows: ['layout', 'palette'] as const };
  const card = changedCard(
    { of: 'layout', layout: 'cairn' },
    { lines: [], look: { ...look, follows: [...look.follows] } },
    record(),
    [],
  )!;
  expect([card.look.layout, card.look.follows]).toEqual(['cairn', ['palette']]);
});

test('whatever is ticked for many, nothing private goes out that nobody said, and what is taken off stays off', () => {
  const ticks = fc.record({
    ...{ of: fc.constant('ticks' as const), kind: fc.constantFrom('phone' as const, 'link' as const) },
    ...{ use: fc.constantFrom(null, 'mobile' as const, 'work' as const), channel: fc.constantFrom(...TICKED_CHANNELS) },
    ...{ on: fc.boolean(), privateToo: fc.boolean() },
  });
  const shown = fc.constantFrom(NOWHERE, PAGE_AND_FILE);
  fc.assert(
    fc.property(ticks, shown, shown, (change, work, own) => {
      const of = record(WORK, OWN, link('l', 'https://tarnhope.example/'));
      const lines = [lineOf('name', PAGE_AND_FILE), lineOf('w', work), lineOf('m', own), lineOf('l', work)];
      const next = changedCard(change, { lines, look: FIRST_LOOK }, of, [])?.lines ?? lines;
      const at = (id: string) => next.find(({ detail }) => detail === id)!.ticks;
      if (!change.privateToo)
        for (const channel of TICKED_CHANNELS) expect(at('m')[channel] && !own[channel]).toBe(false);
      if (!change.on && change.kind === 'phone' && change.use !== 'work') expect(at('m')[change.channel]).toBe(false);
      // Other channels, other kinds and the name stay as they are.
      for (const channel of TICKED_CHANNELS)
        if (channel !== change.channel)
          expect([at('w')[channel], at('m')[channel]]).toEqual([work[channel], own[channel]]);
      expect(at('name')).toEqual(PAGE_AND_FILE);
      expect(changedCard(change, { lines: next, look: FIRST_LOOK }, of, [])).toBeNull();
    }),
  );
});
