import { plural } from '@/core/language';
import type { BlockKind } from '@/core/card';

/** Blocks of the page, and what opens first. Their fields come with `block-fields.ts` when one is opened. */
export const BLOCKS_WORDS = {
  title: 'Blocks of the page',
  none: 'The page shows its lines. A block shows more: pictures, a video, when the office is open.',
  add: 'Add a block',
  kinds: {
    'action bar': 'Action bar',
    about: 'About',
    gallery: 'Gallery',
    video: 'Video',
    'onward links': 'Onward links',
    hours: 'Hours',
    credentials: 'Credentials and marks',
    products: 'Products',
    offices: 'Offices',
    'reply form': 'Reply form',
  } satisfies Record<BlockKind, string>,
  empty: {
    'action bar': 'No buttons.',
    about: 'No words yet, so the page does not show it.',
    gallery: 'No pictures yet, so the page does not show it.',
    video: 'No video yet, so the page does not show it.',
    'onward links': 'No links yet, so the page does not show it.',
    hours: 'No hours are ticked for the page, so it does not show this.',
    credentials: 'No credentials are ticked and there are no marks, so the page does not show it.',
    products: 'No products yet, so the page does not show it.',
    offices: 'No addresses are ticked for the page, so it does not show this.',
    'reply form': '',
  } satisfies Record<BlockKind, string>,
  count: (items: number) => plural(items, { one: '# entry', other: '# entries' }),
  pictures: (count: number) => plural(count, { one: 'one picture or video', other: '# pictures or videos' }),
  off: 'switched off',
  on: (title: string) => `Show ${title}`,
  move: (title: string) => `Move ${title}`,
  up: (title: string) => `Move ${title} up`,
  down: (title: string) => `Move ${title} down`,
  settings: (title: string) => `Settings of ${title}`,
  opens: 'Opens first',
  opensWith: {
    page: 'The page',
    picture: 'A picture of the card',
    block: 'A block',
    file: 'The contact file',
  },
};
