const count = (number: number, word: string) => `${number} ${word}${number === 1 ? '' : 's'}`;

/** The list of people and the two ways to a new one. */
export const PEOPLE = {
  title: 'People',
  nothingOfYours: 'Nothing here yet',
  nothingOfYoursText: 'Your record and cards appear here as soon as the owner has made them.',
  firstTitle: 'Whose card is it?',
  firstText:
    'Start from a contact that a phone or mail program exported, or type three things. Nothing is published until you say so.',
  counts: (people: number, cards: number) =>
    `${people === 1 ? 'One person' : `${people} people`}, ${count(cards, 'card')}`,
  filter: 'Filter people',
  filterHint: 'Filter by name, role or audience',
  newPerson: 'New person',
  column: { card: 'Card', state: 'State', changed: 'Changed', views: 'Views, 7 days', saves: 'Saves' },
  failing: 'proof failing',
  nobodyMatches: (filter: string) => `Nobody matches “${filter}”.`,
  showEverybody: 'Show everybody',

  fromFile: 'From a contact file',
  fromFileText:
    'Drop a .vcf here: every detail and the photo are imported. From a whole address book you choose first.',
  contactFile: 'Contact file',
  reading: (file: string) => `Reading ${file} …`,
  chooseFile: 'Choose a file',

  orType: 'Or type',
  phone: 'Phone',
  email: 'E-mail',
  forWork: 'for work',
  forWorkOf: (kind: 'phone' | 'email') => (kind === 'phone' ? 'The phone is for work' : 'The e-mail is for work'),
  make: 'Make record and card',
  both: 'Two cards: one for work, one private',
  onlyName: 'Only the name is needed.',
};
