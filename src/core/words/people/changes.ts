import { figure, plural } from '@/core/language';
/** One thing that is changed for many people. */
export const CHANGES = {
  act: 'Change one thing …',
  title: (count: number) =>
    plural(count, { one: 'Change one thing for # person', other: 'Change one thing for # people' }),
  what: 'What changes',
  of: {
    link: 'A link',
    title: 'A job title',
    layout: 'The layout of their cards',
    ticks: 'Where lines of a kind are shown',
    codes: 'How their codes are drawn',
  },
  fromLink: 'The link as it is',
  fromLinkHint: 'Empty: the link is added to everybody',
  toLink: 'The new link',
  label: 'Its label',
  labelHint: 'e.g. Autumn fair',
  fromTitle: 'The title as it is',
  fromTitleHint: 'Empty: whatever it is',
  toTitle: 'The new title',
  layout: 'Layout',
  kind: 'Lines',
  kinds: {
    ...{ phone: 'Phones', email: 'E-mails', link: 'Links', address: 'Addresses', title: 'Job titles' },
    ...{ organisation: 'Firms', hours: 'Opening hours', note: 'Notes' },
  },
  use: 'Of which',
  uses: { mobile: 'mobiles', work: 'for work', home: 'private', fax: 'fax' },
  everyUse: 'all of them',
  channel: 'Where',
  channels: { page: 'page', file: 'contact file', signature: 'mail signature', print: 'print' },
  on: { on: 'show', off: 'do not show' },
  shows: 'Show or not',
  privateToo: 'Private ones too: they become public with it',
  codesText: 'Every living code is drawn as the house style draws codes, and read back. Frozen codes stay as they are.',
  look: 'See what changes',
  looking: 'Looking at their cards …',
  nothing: 'Nothing changes: nobody of them has this, or has it already.',
  people: (count: number) => plural(count, { one: '# person changes:', other: '# people change:' }),
  cards: (cards: number, published: number) =>
    `${plural(cards, { one: '# card', other: '# cards' })}, ${published === 0 ? 'none of them published' : published === cards ? 'published: recipients see it at once' : `of which recipients see ${figure(published)} at once`}`,
  copies: (count: number) =>
    plural(count, { one: '# copy out there goes out of date.', other: '# copies out there go out of date.' }),
  sample: 'For example',
  none: 'nothing',
  off: 'not shown there',
  left: (count: number) => plural(count, { one: '# card stays as it is', other: '# cards stay as they are' }),
  begin: (people: number) =>
    plural(people, { one: 'Change and publish for # person', other: 'Change and publish for # people' }),
  again: 'Change what was asked',
  changed: (count: number) => plural(count, { one: '# person was changed.', other: '# people were changed.' }),
  undone: (count: number) =>
    plural(count, { one: 'For # person it was undone.', other: 'For # people it was undone.' }),
  undo: 'Undo all of it',
};
