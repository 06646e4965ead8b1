/** Parts of the page that are more than a line, from `product.md`. */
export const BLOCKS = [
  'action bar',
  'about',
  'gallery',
  'video',
  'onward links',
  'hours',
  'credentials',
  'products',
  'offices',
  'reply form',
] as const;
export type BlockKind = (typeof BLOCKS)[number];

/** Blocks that a trade's starting card may name: those above, and what is offered apart from a card's own lines. */
export type StartBlock = BlockKind | 'shelf';

/** The blocks that consist of items: a picture, words and a link each. */
export const ITEM_BLOCKS = ['gallery', 'onward links', 'credentials', 'products'] as const satisfies BlockKind[];
export type ItemBlockKind = (typeof ITEM_BLOCKS)[number];

/** The blocks that lay out lines of the card in their own way, and the kinds of detail that they take. */
export const TAKES = {
  hours: ['hours'],
  credentials: ['credential', 'licence'],
  offices: ['address'],
} as const;

/** What a button of the action bar does. */
export const ACTS_OF_BAR = ['save', 'call', 'text', 'mail', 'chat', 'map', 'booking', 'open', 'jump'] as const;
export type BarAct = (typeof ACTS_OF_BAR)[number];

/** Where the name of the hand-out's placement is put into a text; where nobody knows it, the text goes without. */
export const PLACEMENT = '{placement}';

/** What a reply form asks for besides a name, one way to reach somebody and a note; three more fields at most, so that it is filled in. */
export const REPLY_EXTRAS = ['firm', 'title', 'other', 'answer'] as const;
export type ReplyExtra = (typeof REPLY_EXTRAS)[number];

/** What opens first. */
export const OPENINGS = ['page', 'picture', 'block', 'file'] as const;
