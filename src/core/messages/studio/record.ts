import type { KeptProperty } from '@/core/record/record';

/** The record, a detail more, a card more. */
export const RECORD = {
  page: 'Record',
  about: 'Record: the source of every card, never published itself',
  column: { detail: 'Detail', value: 'Value', goesOutOn: 'Goes out on' },
  photoOf: (person: string) => `Photo of ${person}`,
  preferred: 'preferred',
  nowhere: 'nowhere',
  removeDetail: (label: string) => `Remove ${label}`,
  removeNote: 'Cards that show it keep what is published until they are published again',
  kept: 'Kept from the file, never published',
  keptWhy: {
    'not-understood': 'no detail stands for it',
    'refused-link': 'a link that could run a program',
    'unreadable-value': 'its value could not be read',
    'unreadable-photo': 'the photo is no picture that can be read',
  } satisfies Record<KeptProperty['why'], string>,
  cards: 'Cards',
  linesOut: (lines: number) => `${lines} lines go out`,

  addDetail: 'Add a detail',
  value: 'Value',
  valueHint: 'Type or paste a phone, a link, an address …',
  kind: 'Kind',
  ofMyOwn: 'Of my own',
  use: 'Use',
  anyUse: 'any use',
  label: 'Label',
  add: 'Add',
  setPhoto: 'Set photo',
  photoFile: 'Photo file',

  newCard: 'New card',
  newCardTitle: 'New card from this record',
  audience: 'Audience',
  audienceHint: 'Trade fair, clients, neighbours …',
  audienceNote: 'For your own eyes; recipients never see it.',
  privateAudience: 'A private audience: home address and private mobile start ticked',
  makeCard: 'Make the card',
};
