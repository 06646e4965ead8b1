import { plural } from '@/core/language';
/** One ZIP of many people's files. */
export const PACK = {
  act: 'All their files …',
  title: (count: number) => plural(count, { one: 'The files of # person', other: 'The files of # people' }),
  note: 'One ZIP with the files of everybody’s first published card. Each file is proven before it goes in; what fails is left out and named. A list in the ZIP tells every file with its proof.',
  kinds: {
    'contact file': 'Contact file (vCard)',
    code: 'Code, as SVG, PNG and PDF',
    signature: 'Mail signature, as HTML and text',
    print: 'Paper card for print, as PDF',
  },
  kindsLabel: 'What goes in',
  pattern: 'Names of the files',
  patternNote: 'Parts in braces are filled in for each person; a slash makes folders.',
  parts: {
    ...{ family: 'last name', given: 'first name', name: 'whole name', staff: 'staff number', title: 'job title' },
    ...{ team: 'team', office: 'office', card: 'card’s address' },
  },
  insert: (part: string) => `Insert ${part}`,
  /** By whom names are shown while they are typed. */
  somebody: {
    ...{ family: 'Varrow', given: 'Ilse', name: 'Ilse Varrow', staff: '0042', title: 'Lead rope inspector' },
    ...{ team: 'Ropes', office: 'Skell', card: 'ilse-varrow' },
  },
  example: (name: string) => `For example ${name}`,
  ask: 'Make the ZIP',
  // A comma is no part of a file's name.
  fileName: (people: number) => (people === 1 ? 'card-of-1-person.zip' : `cards-of-${people}-people.zip`),
  ownFiles: ['manifest.json', 'manifest.csv'],
  placement: 'Paper card',
  noCard: 'No published card.',
  read: (read: number, of: number, smallestMm: number | null) =>
    `Read in ${read} of ${of} tries by two readers${smallestMm === null ? '' : `, printed from ${smallestMm} mm`}.`,
};
