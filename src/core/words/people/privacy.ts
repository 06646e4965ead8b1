import type { Privacy } from '@/core/card';
import { plural } from '@/core/language';

type PublicChannel = 'page' | 'file' | 'code' | 'tag' | 'signature' | 'print' | 'backdrop' | 'pass';
type MendAct = 'take off' | 'for work';
type LeftFor = 'inside' | 'changed' | 'planned' | 'copies only' | 'not marked';

const LIST = new Intl.ListFormat('en-GB', { type: 'conjunction' });

/** Who has something private in public, and what is done about it. */
export const PRIVACY = {
  title: 'Privacy map',
  link: 'Private and public',
  finding: (exposed: number, of: number) =>
    `${exposed} of ${plural(of, { one: '# person has', other: '# people have' })} something private in public.`,
  none: 'Nothing private is public.',
  noneText:
    'Mobiles not marked as work, home addresses, birthdays, notes and the like stand here once a card or a copy of it gives them out, with where.',
  waiting: (count: number) => `${plural(count, { one: '# person is', other: '# people are' })} still being looked at …`,
  record: (organisation: string, day: string) => `${organisation}, as of ${day}`,
  recordText:
    'What is private is told by kind of detail and by what the record marks as for work. Public is what published cards show and what copies carry that are out.',
  column: { kind: 'Private', people: 'People' },
  kind: {
    birthday: 'Birthday',
    home: 'Marked as home',
    mobile: 'Mobile not marked as work',
    'own label': 'Label of one’s own',
    unmarked: 'Not marked as work',
    elsewhere: 'Mail or link elsewhere',
    profile: 'Profile not for work',
    nickname: 'Nickname',
    note: 'Note or category',
    'own words': 'Own words',
    said: 'How the name is said',
  } satisfies Record<Privacy, string>,
  on: {
    page: 'Page',
    file: 'Contact file',
    code: 'Frozen code',
    tag: 'Tag',
    signature: 'Signature',
    print: 'Print',
    backdrop: 'Backdrop',
    pass: 'Pass',
  } satisfies Record<PublicChannel, string>,
  onAll: (on: PublicChannel[]) => LIST.format(on.map((each) => PRIVACY.on[each].toLowerCase())),
  cell: (people: number, kind: string, on: string | null) =>
    `${plural(people, { one: '# person', other: '# people' })}: ${kind}${on ? `, ${on.toLowerCase()}` : ''}`,
  inside: (label: string) => (label ? `within “${label}”` : 'within other words'),
  filter: 'Find people',
  filterHint: 'Find people  /',
  showing: (matching: number, kind: string | null, on: string | null) =>
    `${plural(matching, { one: '# person', other: '# people' })}${kind ? `, ${kind.toLowerCase()}` : ''}${on ? `, ${on.toLowerCase()}` : ''}`,
  clear: 'Show all',
  noMatch: 'Nobody matches.',
  more: 'Show more',
  print: 'Print',
  choose: (name: string) => `Choose ${name}`,
  chosen: (count: number) => plural(count, { one: '# person chosen', other: '# people chosen' }),
  chooseAll: (count: number) => `Choose all ${count}`,
  choiceNone: 'None',
  act: { 'take off': 'Take it off their cards', 'for work': 'It is for work' } satisfies Record<MendAct, string>,
  planTitle: {
    'take off': 'Take what is private off cards',
    'for work': 'Mark as for work',
  } satisfies Record<MendAct, string>,
  planText: {
    'take off':
      'These lines get no tick any more and the cards are published, one after the other. The records keep what they know.',
    'for work':
      'The records say from now on that these are for work. Nothing that is public changes; it is private no longer.',
  } satisfies Record<MendAct, string>,
  which: 'Which kinds',
  changes: (act: MendAct, count: number) =>
    act === 'take off'
      ? plural(count, { one: '# card is published anew', other: '# cards are published anew' })
      : plural(count, { one: '# record changes', other: '# records change' }),
  nothing: 'Nothing can be mended that way.',
  stillOut: (on: PublicChannel[]) => `still out there in ${PRIVACY.onAll(on)}`,
  left: 'Stays as it is',
  leftFor: {
    inside: 'stands within other words: change the words',
    changed: 'the card has changes that are not published: look at it first',
    planned: 'its next publication is planned already: change the plan first',
    'copies only': 'only copies out there carry it',
    'not marked': 'cannot be for work by its kind or its label',
  } satisfies Record<LeftFor, string>,
  begin: {
    'take off': (count: number) =>
      plural(count, { one: 'Publish # card without it', other: 'Publish # cards without it' }),
    'for work': (count: number) => plural(count, { one: 'Mark in # record', other: 'Mark in # records' }),
  } satisfies Record<MendAct, (count: number) => string>,
  undo: 'Undo all of it',
  undone: 'undone',
  mended: 'mended',
  mendedList: 'Card by card',
  toMap: 'To the privacy map',
  toCopies: 'To the copies out there',
  aboutTitle: 'What is public',
  about: (name: string, mine: boolean) => (mine ? 'What is public about me' : `What is public about ${name}`),
  aboutNone: 'Nothing is public.',
  aboutText: (name: string) =>
    `Everything of ${name}’s own that published cards show and that copies out there carry. What the house style adds to every card is not listed.`,
  name: 'Name',
  gone: (saved: number, sent: number) =>
    LIST.format([
      ...(saved > 0 ? [plural(saved, { one: '# phone saved a contact', other: '# phones saved a contact' })] : []),
      ...(sent > 0
        ? [plural(sent, { one: '# contact went along with mail', other: '# contacts went along with mail' })]
        : []),
    ]),
  goneText: 'What sits on others’ phones nobody can call back.',
  aboutLink: 'What is public',
  person: 'Person',
  what: 'What',
  where: 'Where',
};
