import type { StartBlock } from '@/core/card';
import { plural } from '@/core/language';

/** The trades of the starting cards, by their keys in `core/card/starts`. */
export const STARTS_WORDS: Record<string, string> = {
  cableways: 'lift and cableway work',
  property: 'letting and selling homes',
  law: 'law',
  health: 'health care',
  craft: 'crafts and building',
  consulting: 'consulting',
  arts: 'arts and design',
  music: 'music',
  hospitality: 'hospitality',
  sales: 'sales',
  teaching: 'teaching',
  charity: 'charities and clubs',
};

export const BLOCK_WORDS: Record<StartBlock, string> = {
  'action bar': 'action bar',
  about: 'about',
  gallery: 'gallery',
  video: 'video',
  'onward links': 'onward links',
  hours: 'hours',
  credentials: 'credentials and marks',
  products: 'products',
  offices: 'offices',
  shelf: 'shelf',
  'reply form': 'reply form',
};

/** Making a card, its states, its preview, publishing several. */
export const CARDS = {
  newCard: 'New card',
  newCardTitle: 'New card from this record',
  audience: 'Audience',
  cardNumber: (at: number) => `Card ${at}`,
  audienceHint: 'Trade fair, clients, neighbours …',
  audienceNote: 'For your own eyes; recipients never see it.',
  privateAudience: 'A private audience: home address and private mobile start ticked',
  layout: 'Layout, filled with this record',
  from: 'Start from',
  fromRecord: 'the record alone',
  fromCard: (audience: string) => `the card “${audience}”`,
  fromCards: 'Another card',
  fromStarts: 'A starting card for',
  startHas: (labels: string[]) => `Lines: ${labels.join(', ')}.`,
  startBlocks: (blocks: string[]) => `Blocks: ${blocks.join(', ')}.`,
  makeCard: 'Make the card',
  firstSet: 'A second card keeps private details apart from those for work.',
  makePrivate: 'Make the private card',

  preview: 'Preview on my phone',
  previewTitle: 'The draft on your own phone',
  previewText: (until: string) =>
    `Scan this with your phone. It shows the card as it stands at that moment, is not counted, and ends ${until}. Whoever has the address can see it.`,
  previewCode: 'Code of the private preview',
  previewBusy: 'Making the address …',

  state: 'State',
  rest: 'Rest or retire',
  stateTitle: 'What a recipient sees',
  states: {
    published: 'Published: today’s card',
    resting: 'Resting: a note, and a colleague’s card if you choose one',
    retired: 'Retired: a note; its address and codes are never given to anybody else',
  },
  notice: 'Note to the recipient',
  noticeHint: 'On leave until the first of May.',
  noticeOfCompany: 'With nothing here, recipients read the organisation’s own text.',
  noticeUsual: 'Without a note they read that the card was taken back.',
  instead: 'Card shown instead',
  insteadHint: 'A name or an audience',
  chosenCard: 'The card chosen before',
  setState: 'Set the state',
  stopsWorking: (handOuts: number) =>
    plural(handOuts, {
      one: '# hand-out will show the note instead of the card.',
      other: '# hand-outs will show the note instead of the card.',
    }),
  headResting: 'Resting, recipients see a note',
  headRetired: 'Retired',

  showAdded: (details: number) =>
    plural(details, {
      one: 'New on the record, on no published card yet',
      other: '# new on the record, on no published card yet',
    }),
  onCards: 'On these cards:',
  showOn: (cards: number) => plural(cards, { one: 'Show on this card', other: 'Show on # cards' }),
  showOnNone: 'On none for now',
  behind: (cards: number) =>
    plural(cards, {
      one: 'One published card does not show the latest changes of this record.',
      other: '# published cards do not show the latest changes of this record.',
    }),
  seeBehind: 'See what changes',
  publishOn: (cards: number) => `Publish on ${plural(cards, { one: 'this card', other: 'these # cards' })}`,
  publishSeveral: 'Publish several cards',
  publishedOn: (cards: number) => `Published on ${plural(cards, { one: 'one card', other: '# cards' })}.`,
  choose: (audience: string) => `Publish ${audience}`,
  cannot: 'Cannot be published:',

  audiences: 'Audiences',
  audiencesText: 'A preset sets the first ticks of a new card and no more. Cards that were made stay as they are.',
  preset: 'Preset',
  isPrivate: 'Private',
  without: 'Starts without',
  leavesOut: (kind: string, preset: string) => `${preset} starts without ${kind}`,
  addPreset: 'Add a preset',
  presetNeedsName: 'A preset needs a name.',
  presetNamed: (at: number) => `Name of preset ${at}`,
  presetPrivate: (name: string) => `${name} is a private audience`,
  removePreset: (name: string) => `Remove ${name}`,
  savePresets: 'Save the presets',
  oursAgain: 'Restore defaults',
  savedPresets: 'Saved.',
};
