import { plural } from '@/core/language';
/** Offices, and who belongs to them. */
export const OFFICES = {
  none: 'There are no offices yet. Add one with its address and switchboard: the cards of its people show it, and when it moves you change it here once.',
  text: 'The cards of an office’s people show its lines. Changing them here changes every one of those cards at once; codes and links stay.',
  people: (count: number) => plural(count, { one: '# person', other: '# people' }),
  peopleOf: (office: string, count: number) => `${plural(count, { one: '# person', other: '# people' })} of ${office}`,
  version: (number: number) => `version ${number}`,
  copies: (count: number) =>
    plural(count, {
      one: '# copy out there carries what this office says. What you change goes out of date there.',
      other: '# copies out there carry what this office says. What you change goes out of date there.',
    }),
  add: 'Add an office',
  change: 'Change',
  changeOf: (office: string) => `Change ${office}`,
  remove: 'Remove',
  removeOf: (office: string) => `Remove ${office}`,
  sure: (office: string, count: number) =>
    count === 0
      ? `Remove ${office}?`
      : `Remove ${office}? The cards of ${plural(count, { one: '# person', other: '# people' })} lose its lines.`,
  keepIt: 'Keep it',
  name: 'Name of the office',
  nameHint: 'Valley station',
  slot: {
    address: 'Address',
    phone: 'Switchboard',
    hours: 'Opening hours',
    legal: 'Legal line',
  },
  hint: {
    address: '',
    phone: '020 7946 0180',
    hours: 'Mon–Fri 8:00–17:00',
    legal: 'Registered in England, no. 00000000',
  },
  save: 'Save and put in force',
  cancel: 'Cancel',
  onPage: 'page',
  onFile: 'contact file',
  label: 'Label',
  labelOf: (slot: string) => `Label of ${slot}`,
  goes: (slot: string) => `Where ${slot} goes`,
  saved: (cards: number) =>
    cards === 0
      ? 'Saved.'
      : `In force on ${plural(cards, { one: '# card', other: '# cards' })}. Their proofs are made anew.`,
  proven: (count: number) => plural(count, { one: '# card was proven.', other: '# cards were proven.' }),
  failing: (count: number) => plural(count, { one: '# fails its proof', other: '# fail their proof' }),
  intoOffice: 'To an office …',
  noOffice: 'No office',
  ofPerson: 'Office',
  manage: 'Offices',
};
