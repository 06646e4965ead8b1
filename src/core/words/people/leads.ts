import { figure, plural } from '@/core/language';
import type { EntryKind, HandKind, LeadState, LooksWrong, Told } from '@/core/replies';

const lines = (told: Told, question: string): string[] => [
  told.name,
  told.reach,
  ...[told.other, told.firm, told.title].filter(Boolean),
  ...(told.note ? [`“${told.note}”`] : []),
  ...(told.answer ? [`${question} ${told.answer}`] : []),
];

/** What letters about leads say, to whom the leads belong. */
export const LEAD_LETTERS = {
  notice: (name: string, told: Told, { card, address }: { card: string | null; address: string }) => ({
    subject: `${told.name} replied to your card`,
    greeting: `Hello ${name},`,
    paragraphs: [
      card
        ? `${told.name} left their details on your card (${card}):`
        : `${told.name} left their details on your card:`,
      ...lines(told, told.question),
    ],
    act: { word: 'Open this lead', address },
    below: ['Their contact file is attached. Answering this mail writes to them, where they gave an address.'],
    signed: 'Heathland',
  }),
  evening: (
    name: string,
    came: { name: string; about: string | null; reach: string | null; where: string; said: string; todo: string }[],
    { address, more }: { address: string; more: number },
  ) => ({
    subject: plural(came.length + more, {
      one: 'Today # person left their details',
      other: 'Today # people left their details',
    }),
    greeting: `Hello ${name},`,
    paragraphs: [
      'this is who came today:',
      ...came.map((each) =>
        [
          [each.name, each.about, each.reach].filter(Boolean).join(', '),
          each.where && `Where: ${each.where}`,
          each.said && `“${each.said}”`,
          each.todo && `To do: ${each.todo}`,
        ]
          .filter(Boolean)
          .join(' — '),
      ),
      ...(more > 0 ? [`… and ${more} more.`] : []),
    ],
    act: { word: 'Open your leads', address },
    below: ['You get this on days on which somebody came. You can end it below your leads.'],
    signed: 'Heathland',
  }),
};

/** Leads: who replied or was met, and what is to follow. */
export const LEADS = {
  title: 'Leads',
  one: 'Lead',
  none: 'Nobody yet. Put a reply form on a card, under its blocks: whoever looks at the card can leave a name and one way to reach them. Or add whom you met, or drop a contact file here.',
  noneHere: 'No leads match.',
  whose: 'Whose',
  mine: 'Mine',
  all: 'All that are shared',
  states: {
    new: 'New',
    'in touch': 'In touch',
    later: 'Later',
    done: 'Done',
    'not wanted': 'Not wanted',
  } satisfies Record<LeadState, string>,
  anyState: 'Any state',
  anyTopic: 'Any topic',
  anyOccasion: 'Any occasion',
  here: (views: number, saves: number) =>
    `Today here: ${plural(views, { one: '# view', other: '# views' })}, ${plural(saves, { one: '# save', other: '# saves' })}. What comes in appears by itself.`,
  dueOnly: 'To be done by today',
  search: 'Search leads',
  finding: (due: number, fresh: number) =>
    due === 0 && fresh === 0
      ? 'Nothing is due today.'
      : [
          due > 0 ? `${plural(due, { one: '# thing', other: '# things' })} to be done by today` : '',
          fresh > 0 ? `${figure(fresh)} new` : '',
        ]
          .filter(Boolean)
          .join(', ') + '.',
  dueTitle: 'Due today',
  dueToday: 'today',
  dueSince: (day: string) => `since ${day}`,
  doneOne: (what: string, name: string) => `Done: ${what}, ${name}`,
  head: { name: 'Name', reach: 'Reach', state: 'State', where: 'Where', last: 'Last', due: 'Due', owner: 'Whose' },
  more: 'Show more',
  by: { reply: 'replied', handed: 'typed on your phone', typed: 'added by hand', file: 'from a contact file' },
  private: 'Private',
  privateNote: 'Private: nobody but you sees this lead, administrators neither.',
  shared: 'Shared',
  sharedNote: 'Shared: owners and administrators, and whoever leads your team, see it too.',
  share: 'Share it',
  makePrivate: 'Make it private',
  add: 'Add a lead',
  addTitle: 'Whom you met',
  close: 'Close',
  exported: 'Take along',
  exports: { csv: 'CSV', xlsx: 'XLSX', vcf: 'Contact file' },
  print: 'Print',
  choose: (name: string) => `Choose ${name}`,
  chosen: (count: number) => (count === 0 ? 'all' : `${figure(count)} chosen`),
  columns: {
    heads: [
      ...['Name', 'Job title', 'Firm', 'E-mail', 'Phone', 'State', 'Private', 'Whose', 'Came', 'Last', 'Where', 'Due'],
      ...['Topics', 'Wrote'],
    ],
    yes: 'yes',
    no: 'no',
  },
  reach: 'How to reach them',
  editOrRefer: 'Correct, or refer them to somebody',
  state: 'State',
  topics: 'Topics',
  topicsHint: 'separated by commas',
  occasion: 'Met at',
  nowhere: 'no occasion',
  owner: 'Whose lead',
  handOver: 'Hand over to',
  handOverDo: 'Hand over',
  handOverNote: 'Your private notes do not go along: they are erased.',
  came: (how: string, when: string) => `${how} on ${when}`,
  byCard: (audience: string) => `by the card “${audience}”`,
  reading: 'The contact file is being read …',
  cameIn: (count: number, left: number) => {
    const came = plural(count, {
      one: '# contact of the file came in.',
      other: '# contacts of the file came in.',
    });
    return left > 0 ? `${came} ${figure(left)} stayed out: without a name, or with more than a lead holds.` : came;
  },
  takeOut: 'Take them out again',
  takenAway: 'It was taken away.',
  putBack: 'Put it back',
  erase: 'Erase',
  eraseChosen: (count: number) => plural(count, { one: 'Erase # lead', other: 'Erase # leads' }),
  eraseTitles: (count: number) => plural(count, { one: 'Erase # lead?', other: 'Erase # leads?' }),
  eraseTitle: (name: string) => `Erase ${name}?`,
  eraseText:
    'Everything that they told and everything that was noted is erased at once and cannot be brought back. The link in their mail goes on opening your card.',
  followUps: 'To do',
  followUpWhat: 'What',
  followUpHint: 'Send the sample',
  followUpDay: 'By',
  addFollowUp: 'Add',
  removeFollowUp: (what: string) => `Remove ${what}`,
  timeline: 'What there was',
  note: 'Note',
  noteKind: 'What it was',
  kinds: { note: 'Note', meeting: 'Meeting', call: 'Call', mail: 'Mail', text: 'Text' } satisfies Record<
    HandKind,
    string
  >,
  entry: {
    note: 'Note',
    meeting: 'Meeting',
    call: 'Call',
    mail: 'Mail',
    text: 'Text',
    sent: 'Card sent',
    view: 'Opened the card again',
    corrected: 'Corrected their details themselves',
    'handed over': 'Handed over',
    merged: 'Merged',
  } satisfies Record<EntryKind, string>,
  noteHint: 'Wants the report of the tower ropes',
  place: 'Where',
  when: 'When',
  onlyMe: 'Only for me',
  keep: 'Note it',
  removeNote: 'Remove this note',
  replied: 'Replied',
  consent: 'Agreed to',
  followed: 'Their address is theirs: they followed the link of their mail.',
  notFollowed: 'They have not followed the link of their mail yet.',
  agreed: 'You are told when they open your card by it.',
  waits: 'This reply waits for you. No mail has gone out yet.',
  wrong: {
    'hidden field': 'a field was filled in that people do not see',
    'too fast': 'it was sent faster than anybody types',
    'many from one': 'many came from one place',
    'many to one': 'many came for this card at once',
    links: 'it has many links in it',
  } satisfies Record<LooksWrong, string>,
  nod: 'It is one: send the mails',
  doubles: 'Perhaps the same person',
  compare: 'Compare',
  mergeTitle: (name: string) => `Make one of both with ${name}`,
  mergeNothing: 'The other one says nothing that this one does not.',
  mergeTake: (label: string) => `Take over ${label}`,
  merge: 'Make one of both',
  merged: (name: string) => `${name} was merged into this lead.`,
  undoMerge: 'Take them apart again',
  adds: 'new',
  instead: (now: string) => `instead of ${now}`,
  send: 'Send my card',
  sendCard: 'Which card',
  sendNote: 'A line of yours',
  sent: 'On its way.',
  evening: 'Mail me in the evening who came',
  back: 'All leads',
  now: 'now',
};
