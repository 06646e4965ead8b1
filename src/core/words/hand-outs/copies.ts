import { plural } from '@/core/language';

type Channel = 'code' | 'tag' | 'print' | 'backdrop' | 'pass' | 'signature' | 'file' | 'mail';

const KINDS: Record<Channel, { one: string; other: string }> = {
  code: { one: '# code', other: '# codes' },
  tag: { one: '# tag', other: '# tags' },
  print: { one: '# printed copy', other: '# printed copies' },
  backdrop: { one: '# backdrop', other: '# backdrops' },
  pass: { one: '# pass', other: '# passes' },
  signature: { one: '# mail signature', other: '# mail signatures' },
  file: { one: '# saved contact', other: '# saved contacts' },
  mail: { one: '# contact sent along', other: '# contacts sent along' },
};
const some = (channel: Channel, count: number): string => plural(count, KINDS[channel]);
const listed = (all: string[]): string => all.join(', ').replace(/, ([^,]*)$/, ' and $1');

/** Copies that are out, and those that are out of date. */
export const COPIES = {
  title: 'Copies out there',
  text: 'Whatever carries a copy: printed cards, frozen codes and tags, backdrops, signatures, saved contacts. What is live shows today’s card and is not listed.',
  some,
  wild: (count: number) => plural(count, { one: '# out-of-date copy', other: '# out-of-date copies' }),
  finding: (count: number) =>
    plural(count, { one: '# copy says what is no longer true.', other: '# copies say what is no longer true.' }),
  allTrue: 'Every copy out there says what its card says today.',
  allTrueText:
    'A copy appears here when a number, a name or whatever else it carries is no longer what the card gives out.',
  nothingOut: 'No copy is out yet.',
  nothingOutText:
    'Printed cards, frozen codes and tags, pasted signatures and saved contacts appear here from when they are made.',
  found: (count: number, more: boolean, sought: string) =>
    `${more ? 'More than ' : ''}${plural(count, { one: '# entry carries', other: '# entries carry' })} “${sought}”.`,
  nowhere: (sought: string) => `No copy carries “${sought}”.`,
  nowhereText: 'Numbers are found in whatever way they are written; of other values the whole is looked for.',
  which: { wild: 'Out of date', all: 'All' },
  whichLabel: 'Which copies',
  search: 'Where is this?',
  searchHint: 'A number, an address, a name',
  ofIt: 'Its copies out there',
  of: (what: string) => `Of ${what}`,
  printed: 'printed',
  revision: (number: number) => `revision ${number}`,
  at: (place: string) => `at ${place}`,
  now: (value: string | null) => (value === null ? 'the card says nothing there any more' : `now ${value}`),
  name: 'Name',
  live: 'Its code is live: a scan shows today’s card.',
  remedy: {
    code: 'Make a live one',
    tag: 'Write it anew',
    print: 'Print it anew',
    backdrop: 'Download it anew',
    pass: 'Fetch it anew',
    signature: 'Paste it anew',
  } satisfies Record<Exclude<Channel, 'file' | 'mail'>, string>,
  why: {
    code: 'A frozen code cannot be changed: replace it by a live one, or take it down.',
    tag: 'A tag can be written again, unless it is locked.',
    print: 'The file with today’s card is at hand.',
    backdrop: 'Whoever uses it downloads today’s.',
    pass: 'Whoever has it on their phone fetches today’s.',
    signature: 'Paste today’s over it wherever mail is written.',
  } satisfies Record<Exclude<Channel, 'file' | 'mail'>, string>,
  done: 'Done',
  doneOf: (what: string) => `Done: ${what}`,
  doneOn: 'dealt with',
  undo: 'Not yet',
  undoOf: (what: string) => `Not yet done: ${what}`,
  gaveUp: 'given up',
  more: 'Show more',
  gone: 'Cannot be called back',
  goneText:
    'What sits on others’ phones nobody can change. Whoever saves the card again, or opens the link in it, gets today’s.',
  goneOf: (saved: number, sent: number) =>
    listed([...(saved > 0 ? [some('file', saved)] : []), ...(sent > 0 ? [some('mail', sent)] : [])]),
  whereIs: 'Where is it out?',
  willCarry: (kinds: string[]) => `Will carry the old one: ${listed(kinds)}.`,
  carriesOther: (kinds: string[]) => `Another one is out: ${listed(kinds)}.`,
  kind: (channel: Channel, pieces: number, copies: number | null, placements: string[]) => {
    const counted = some(channel, copies ?? pieces);
    return placements.length > 0 && channel !== 'signature' && channel !== 'mail'
      ? `${counted} (${placements.join(', ')}${pieces > placements.length ? ' …' : ''})`
      : counted;
  },
  see: 'See them',
};
