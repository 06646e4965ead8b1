import fc from 'fast-check';
import { CHANNELS, composeDraft, NAME_LINE, type Composition } from '@/core/card';
import type { Content } from '@/core/code';
import type { Detail } from '@/core/record';
import { anyCard, blocksOf } from '../../../tests/fixtures/any-card';
import { carriedInCode, carriedOn, publishedBy, publishedByHouse } from './index';
import { normalised, recognised, sought, type Value } from './value';

/* Numbers are those that Ofcom reserves for drama; how they are written out is E.164 and ITU-T E.123. */
const common = { label: '', preferred: false };
const detail = (more: object): Detail => ({ ...common, ...more }) as Detail;
const card = (
  details: Detail[],
  on: readonly string[] = ['page', 'file', 'code', 'signature'],
  more: object = {},
): Composition =>
  ({
    ...{
      name: { prefix: '', given: 'Ilse', additional: '', family: 'Varrow', suffix: '', written: '' },
      blocks: [],
      further: {},
    },
    lines: details.map((each) => ({ id: each.id, label: each.label, detail: each, on, emphasis: 'plain', gap: false })),
    ...more,
  }) as unknown as Composition;
const told = (values: { line: string; kind: string; value: string; source: string }[]) =>
  values.map(({ line, kind, value, source }) => `${line} ${kind} ${value} ${source}`);

test('a copy carries the name and every line that is ticked for its channel, and of no other anything (property)', () => {
  fc.assert(
    fc.property(anyCard, fc.constantFrom(...CHANNELS), ({ record, draft }, channel) => {
      const composed = composeDraft(record, draft, 'GB');
      if (!composed.ok) return;
      const carried = carriedOn(composed.value, channel, 'GB');
      const ticked = new Set(draft.lines.filter(({ ticks }) => ticks[channel]).map((line) => line.detail));
      for (const { line } of carried) expect([line, line === NAME_LINE || ticked.has(line)]).toEqual([line, true]);
      // Whatever goes out can be asked for later: each line that is composed for the channel has its value.
      const out = composed.value.lines.filter(({ on }) => on.includes(channel)).map(({ id }) => id);
      expect(new Set([NAME_LINE, ...out])).toEqual(new Set(carried.map(({ line }) => line)));
    }),
    { numRuns: 300 },
  );
});

test('what is published is told with its channels, each value of a line once, in all of a card’s languages (property)', () => {
  fc.assert(
    fc.property(anyCard, blocksOf, ({ record, draft }, blocks) => {
      const composed = composeDraft(record, { ...draft, blocks }, 'GB');
      if (!composed.ok) return;
      const published = publishedBy(composed.value, 'GB');
      const keys = published.map(({ line, kind, value }) => `${line} ${kind} ${value}`);
      expect(new Set(keys).size).toBe(keys.length);
      for (const channel of CHANNELS) {
        const there = new Set(
          published.filter(({ channels }) => channels.includes(channel)).map(({ line, value }) => `${line} ${value}`),
        );
        for (const { line, value } of carriedOn(composed.value, channel, 'GB'))
          if (line !== NAME_LINE) expect([channel, line, there.has(`${line} ${value}`)]).toEqual([channel, line, true]);
      }
    }),
    { numRuns: 150 },
  );
});

test('a number is found with and without its extension, and where it stands within words', () => {
  const phone = detail({ kind: 'phone', id: 'p', number: '+442079460182', extension: '12', uses: [] });
  const note = detail({
    kind: 'note',
    id: 'n',
    text: 'On call: 020 7946 0199, or night@tarnhope.example; desk +44 20 7946 0182.',
  });
  expect(told(carriedOn(card([phone, note]), 'page', 'GB'))).toEqual([
    'name name ilse varrow card',
    'p phone +442079460182;12 card',
    'n note on call: 020 7946 0199, or night@tarnhope.example; desk +44 20 7946 0182. card',
    'p phone +442079460182 inside',
    'n phone +442079460199 inside',
    'n email night@tarnhope.example inside',
  ]);
  // Days and addresses of their own have no numbers inside.
  const whole = [
    detail({ kind: 'birthday', id: 'b', date: '1984-06-30' }),
    detail({ kind: 'link', id: 'l', url: 'https://x.example/02079460182', uses: [] }),
  ];
  expect(carriedOn(card(whole), 'page', 'GB').filter(({ source }) => source === 'inside')).toEqual([]);
  // Words of blocks stand on the page alone.
  const about = { kind: 'about', id: 'a', on: true, before: false, title: 'Me', text: 'Ring 07700 900182' };
  const published = publishedBy(card([], [], { blocks: [about] }), 'GB');
  expect(published.map(({ kind, value, channels }) => [kind, value, channels])).toContainEqual([
    'phone',
    '+447700900182',
    ['page'],
  ]);
});

test.each<[string, Content, string[]]>([
  ['live: nothing, it shows today’s card', { what: 'card' }, []],
  [
    'a contact: all that is ticked for codes',
    { what: 'contact', form: 'vCard 3.0', link: true },
    ['name name ilse varrow card', 'p phone +442079460182 card'],
  ],
  ['a call: its line alone', { what: 'call', line: 'p' }, ['p phone +442079460182 card']],
  ['a line that is gone', { what: 'write', line: 'gone' }, []],
  [
    'words that were typed',
    { what: 'words', text: 'Ring 07700 900182' },
    [' note ring 07700 900182 typed', ' phone +447700900182 inside'],
  ],
  ['an address', { what: 'address', url: 'HTTPS://tarnhope.example/' }, [' link tarnhope.example typed']],
  ['a network', { what: 'wifi', name: 'Moor', password: 'x', kind: 'WPA', hidden: false }, []],
])('what a code carries of a card: %s', (_, content, carried) => {
  const phone = detail({ kind: 'phone', id: 'p', number: '+442079460182', uses: [] });
  expect(told(carriedInCode(content, card([phone], ['code']), 'GB'))).toEqual(carried);
});

test('lines of the house go where the house says; a picture is no value', () => {
  const house = (more: object) => ({ id: 'house-desk', label: 'Desk', page: true, file: true, ...more }) as never;
  const phone = detail({ kind: 'phone', id: 'house-desk', number: '+442079460100', uses: ['work'] });
  const channelsOf = (line: object) =>
    publishedByHouse({ lines: [house({ detail: phone, ...line })] }, 'GB').map(({ source, channels }) => [
      source,
      channels,
    ]);
  expect(channelsOf({})).toEqual([['house', ['page', 'signature', 'print', 'pass', 'file', 'code', 'tag']]]);
  expect(channelsOf({ page: false })).toEqual([['house', ['file', 'code', 'tag']]]);
  expect(channelsOf({ page: false, file: false })).toEqual([]);
  expect(channelsOf({ detail: detail({ kind: 'logo', id: 'house-desk', hash: 'ab', width: 9, height: 9 }) })).toEqual(
    [],
  );
});

test('two values are the same however they are written: blanks, capitals, compatibility forms (Unicode NFKC), schemes of the web', () => {
  const same = (one: object, other: object) => normalised(detail(one) as Value) === normalised(detail(other) as Value);
  expect(
    same({ kind: 'email', address: 'Ilse@Tarnhope.example' }, { kind: 'email', address: 'ilse@tarnhope.example' }),
  ).toBe(true);
  expect(same({ kind: 'note', text: 'ﬁrst \n line' }, { kind: 'note', text: 'First line' })).toBe(true);
  expect(same({ kind: 'link', url: 'http://x.example' }, { kind: 'link', url: 'https://x.example/' })).toBe(true);
  // Paths of the web tell capitals apart (RFC 3986, 6.2.2.1).
  expect(same({ kind: 'link', url: 'https://x.example/A' }, { kind: 'link', url: 'https://x.example/a' })).toBe(false);
  const address = {
    kind: 'address',
    poBox: '',
    extended: '',
    street: '4 Wharf Row',
    locality: 'Stavering',
    region: '',
    postcode: '',
    country: '',
  };
  expect(same(address, { ...address, street: '4  wharf row' })).toBe(true);
  expect(
    same({ kind: 'phone', number: '+442079460182' }, { kind: 'phone', number: '+442079460182', extension: '1' }),
  ).toBe(false);
});

test('numbers are recognised as people write them (ITU-T E.123), and figures that are none are not', () => {
  const numbers = (text: string) => recognised(text, 'GB').map(({ value }) => value);
  for (const written of [
    '020 7946 0182',
    '(020) 7946-0182',
    '+44 20 7946 0182',
    '0044 20 7946 0182',
    '020.7946.0182',
    '020/7946/0182',
  ])
    expect([written, numbers(`Call ${written}, please.`)]).toEqual([written, ['+442079460182']]);
  expect(numbers('12 34 56')).toEqual([]);
  for (const day of ['30.11.2026', '1/9/1998', '11/30/2026', '2026-11-30', '30-11-2026'])
    expect([day, numbers(`Until ${day} 020 7946 0182`)]).toEqual([day, ['+442079460182']]);
  // A number that only begins like a day is one.
  expect(numbers('01.09.199833')).toHaveLength(1);
  expect(numbers('ref A0207946018277 and B-12')).toEqual([]);
  expect(recognised('a@b.example, A@B.example; <c.d@e.example>', 'GB')).toEqual([
    { kind: 'email', value: 'a@b.example' },
    { kind: 'email', value: 'c.d@e.example' },
  ]);
  // Whoever looks for a value finds it by any of its forms.
  expect(sought('020 7946 0182', 'GB')).toContain('+442079460182');
  expect(sought('HTTPS://x.example/A/', 'GB')).toContain('x.example/A');
});

test('a text of any length is looked through in a moment (somebody waits for it)', () => {
  const began = performance.now();
  for (const text of ['1 '.repeat(50_000), '+'.repeat(100_000), 'a@'.repeat(50_000), `${'(0'.repeat(50_000)}`])
    recognised(text, 'GB');
  expect(performance.now() - began).toBeLessThan(2_000);
});
