import fc from 'fast-check';
import { anyCard, blocksOf } from '../../../../tests/fixtures/any-card';
import { FIRST_LOOK } from '@/core/look';
import { composeDraft } from '../compose';
import type { ComposedLine } from '../schema';
import { filesOf, fits, lineOfButton, linesOf, shownBlocks } from './block-content';
import { ACTS_OF_BAR, BLOCKS } from './block-kinds';
import type { Block } from './blocks';
import { freshBlock } from './fresh-block';

const line = (id: string, detail: object, on = ['page']): ComposedLine =>
  ({
    id,
    label: '',
    on,
    emphasis: 'plain',
    gap: false,
    detail: { id, label: '', preferred: false, ...detail },
  }) as never;
const phone = (id: string, uses: string[], on?: string[]) =>
  line(id, { kind: 'phone', number: '+442079460182', uses }, on);
const link = (id: string, purpose?: string) =>
  line(id, { kind: 'link', url: 'https://tarnhope.example/', uses: [], purpose });
const LINES = [
  phone('fax', ['work', 'fax']),
  phone('desk', ['work']),
  phone('pocket', ['mobile', 'text']),
  line('mail', { kind: 'email', address: 'ilse@tarnhope.example', uses: [] }),
  link('web'),
  link('book', 'booking'),
  line('place', { kind: 'address', street: '4 Lath Row', locality: 'Tarnhope' }),
];

// A fax and a pager are not rung, and an office’s land line takes no texts (common practice, no published source).
test.each([
  ['call', 'desk'],
  ['text', 'pocket'],
  ['mail', 'mail'],
  ['map', 'place'],
  ['booking', 'book'],
  ['open', 'web'],
  ['chat', null],
] as const)('the button “%s” stands for %s', (act, id) => {
  expect(lineOfButton({ act, line: null }, LINES)?.id ?? null).toBe(id);
});

test('a button stands for the line that was chosen, while that goes out and fits, and for no line that the page does not give out (property)', () => {
  expect(lineOfButton({ act: 'call', line: 'pocket' }, LINES)?.id).toBe('pocket');
  expect(lineOfButton({ act: 'call', line: 'fax' }, LINES)).toBeNull();
  expect(lineOfButton({ act: 'call', line: 'gone' }, LINES)).toBeNull();
  // Only in the contact file.
  expect(lineOfButton({ act: 'call', line: null }, [phone('own', ['mobile'], ['file'])])).toBeNull();
  fc.assert(
    fc.property(anyCard, fc.constantFrom(...ACTS_OF_BAR), ({ record, draft }, act) => {
      const made = composeDraft(record, draft, 'GB');
      if (!made.ok) throw new Error(made.problem.code);
      const { lines } = made.value;
      const found = lineOfButton({ act, line: null }, lines);
      if (found) expect([found.on.includes('page'), fits(act, found.detail)]).toEqual([true, true]);
      const fitting = lines.filter(({ on, detail }) => on.includes('page') && fits(act, detail));
      for (const { id } of lines)
        expect(lineOfButton({ act, line: id }, lines)?.id ?? null).toBe(
          fitting.some((each) => each.id === id) ? id : null,
        );
    }),
  );
});

test('what goes out of blocks is on and holds something, in its order; a block of lines goes out with its lines (property)', () => {
  fc.assert(
    fc.property(
      blocksOf,
      fc.array(fc.boolean(), { minLength: BLOCKS.length, maxLength: BLOCKS.length }),
      (given, on) => {
        const blocks = given.map((block, at) => ({ ...block, on: on[at]! }));
        const shown = shownBlocks(blocks, LINES);
        const ids = shown.map(({ id }) => id);
        expect(ids).toEqual(blocks.flatMap(({ id }) => (ids.includes(id) ? id : [])));
        for (const block of shown) {
          expect(block.on).toBe(true);
          // Its empty parts are not taken along.
          if ('items' in block)
            expect(block.items.every(({ picture, title, text, url }) => picture || title || text || url)).toBe(true);
          if (block.kind === 'video') expect(block.videos.every(({ film, player }) => film || player)).toBe(true);
          if (block.kind === 'about') expect(block.text.trim()).not.toBe('');
        }
        for (const block of blocks.filter(({ id }) => !ids.includes(id))) {
          const full =
            'items' in block && block.items.some(({ picture, title, text, url }) => picture || title || text || url);
          expect(!block.on || !full).toBe(true);
          if (block.on) expect(linesOf(block.kind, LINES)).toEqual([]);
        }
        // What went out once goes out again, and nothing more of it.
        expect(shownBlocks(shown, LINES)).toEqual(shown);
      },
    ),
  );
});

test('every file that a page shows is asked for, once, whoever else shows it', () => {
  const file = (hash: string) => ({ hash, width: 9, height: 9 });
  const gallery = {
    ...freshBlock('gallery', () => 'g'),
    items: ['a', 'b', 'a'].map((hash) => ({ id: hash, picture: file(hash), alt: '', title: '', text: '', url: '' })),
  } as Block;
  const video = {
    ...freshBlock('video', () => 'v'),
    videos: [{ id: 'v1', title: '', film: file('f'), player: '', poster: file('b'), captions: file('c') }],
  } as unknown as Block;
  const ground = { kind: 'picture', picture: file('g'), veil: 1, darkest: '#000000', lightest: '#FFFFFF' } as const;
  const all = {
    blocks: [gallery, video],
    opens: { first: 'picture', picture: file('o') },
    look: { ...FIRST_LOOK, ground },
  } as Parameters<typeof filesOf>[0];
  expect([...filesOf(all)].sort()).toEqual(['a', 'b', 'c', 'f', 'g', 'o']);
  expect([...filesOf({ ...all, blocks: [], opens: { first: 'page' }, look: FIRST_LOOK })]).toEqual([]);
});
