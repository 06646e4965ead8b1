import { figure, plural } from '@/core/language';

/** The list of people and the two ways to a new one. */
export const PEOPLE = {
  title: 'People',
  nothingOfYours: 'Nothing here yet',
  nothingOfYoursText: 'Your record and cards appear here as soon as the owner has made them.',
  firstTitle: 'Whose card is it?',
  firstText:
    'Type what should be on the card, paste a mail signature, or drop a contact file. Nothing is published until you say so.',
  counts: (people: number, cards: number) =>
    `${plural(people, { one: 'One person', other: '# people' })}, ${plural(cards, { one: '# card', other: '# cards' })}`,
  whom: 'Whose cards are listed',
  everybody: 'Everybody',
  team: (name: string, people: number) => `${name} (${people})`,
  gone: 'no longer there',
  chooseThese: (count: number) => plural(count, { one: 'Choose this person', other: 'Choose these #' }),
  teams: 'Teams',
  intoTeam: 'Into a team …',
  newTeam: 'A new team',
  outOfTeam: 'Out of this team',
  filter: 'Filter people',
  filterHint: 'Filter by name, role or audience',
  newPerson: 'New person',
  column: { card: 'Card', state: 'State', changed: 'Changed', views: 'Views, 7 days', saves: 'Saves' },
  failing: 'proof failing',
  nobodyMatches: (filter: string) => `Nobody matches “${filter}”.`,
  showEverybody: 'Show everybody',
  partOf: (here: number, all: number) => `${figure(here)} of ${figure(all)}; the next ones come as you scroll.`,

  fromFile: 'From a contact file',
  fromFileText:
    'Drop a .vcf here: every detail and the photo are imported. From a whole address book you choose first.',
  contactFile: 'Contact file',
  reading: (file: string) => `Reading ${file} …`,
  chooseFile: 'Choose a file',

  name: 'Name',
  jobTitle: 'Job title',
  firm: 'Firm',
  phone: 'Phone',
  email: 'E-mail',
  forWork: 'for work',
  forWorkOf: (kind: 'phone' | 'email') => (kind === 'phone' ? 'The phone is for work' : 'The e-mail is for work'),
  make: 'Make record and card',
  makeAndPublish: 'Make and publish …',
  photo: 'Add a photo',
  otherPhoto: 'Another photo',
  photoFile: 'Photo file',
  pasteNote: 'A whole mail signature can be pasted into any field.',
  alsoFound: 'Also from the signature:',
  growing: 'The card so far',
  both: 'Two cards: one for work, one private',
};
