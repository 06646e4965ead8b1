import { figure, plural } from '@/core/language';
import type { SeenRecord } from '@/core/ndef';

/** Tags that a phone is held to. */
export const TAGS = {
  new: 'New tag',
  whatShould: 'What should a tap do?',
  make: 'Make the tag',
  does: 'A tap',
  size: 'Size of the tag',
  room: (bytes: number) => `${figure(bytes)} bytes`,
  sizes: { 144: 'small, as most stickers', 496: 'medium', 872: 'large' } satisfies Record<number, string>,
  sizeNote: 'What it offers stands on its package or in its data sheet.',
  live: 'Live: a tap shows today’s card. Every tap is counted.',
  frozen: 'Frozen: it carries a copy, which stays what it is until the tag is written again.',
  passed: 'Ready to be written.',
  leaving: 'Private, and whoever reads the tag has it:',
  leaveOut: (lines: string[]) => `It fits without ${lines.join(', ')}: untick that in the column Tag and publish.`,
  fitsNever: 'It does not fit even without its lines: take a larger tag, or let it open the card.',
  renews: 'The card says something else by now.',
  renew: 'Carry today’s card',
  carries: 'What lies in it',
  record: (seen: SeenRecord): [string, string] => {
    switch (seen.kind) {
      case 'link':
        return ['Link', seen.uri];
      case 'contact':
        return ['Contact', seen.text];
      case 'text':
        return [`Words (${seen.language})`, seen.text];
      case 'empty':
        return ['Nothing', ''];
      case 'other':
        return ['Something else', `${seen.type}, ${figure(seen.bytes)} bytes`];
    }
  },
  first: 'first, since many phones act on a link alone',
  bytes: (used: number, room: number) => `${figure(used)} of ${figure(room)} bytes`,
  bytesTitle: 'The bytes',
  download: 'Download the bytes',

  write: 'Write it here',
  writeNote: 'This browser writes tags. Have the tag at hand; what it held before is lost.',
  lock: 'Lock it after writing',
  lockNote: 'Locking is final: nobody can ever write this tag again, you neither.',
  lockSure: 'Yes, lock it for ever',
  begin: 'Write the tag',
  again: 'Write it once more',
  stop: 'Stop',
  step: {
    writing: 'Hold the tag to the phone, and keep it there.',
    reading: 'Written. Take the tag away and hold it to the phone once more, to read it back.',
    locking: 'It reads right. Hold it to the phone a last time, to lock it.',
    done: 'Written and read back: it says just what it should.',
    locked: 'Written, read back and locked.',
  },
  failed: {
    off: 'NFC is switched off on this phone. Switch it on in its settings.',
    refused: 'The browser was not allowed to use NFC. Allow it beside the address, then write again.',
    none: 'This device has no NFC.',
    io: 'The tag was not written: it went away too soon, is locked, is too small, or is of another kind. Hold it still and try again, or take another one.',
    other: 'The tag reads something else than was written. Write it again, or take another one.',
    unreadable: 'The tag could not be read back. Hold it still and try again.',
    lock: 'It is written, but could not be locked. Anybody who holds it can write it.',
    unknown: 'The browser refused to write it.',
  },
  notHere: 'This browser writes no tags',
  notHereNote:
    'Browsers of phones of one family do, on their own system. Elsewhere a program for writing tags does it:',
  copyAddress: 'Copy the address',
  steps: [
    'Install a program that writes NFC tags on a phone that has NFC, or use a desk reader with its program.',
    'Choose “write”, and add a record of the kind “link” or “URL”.',
    'Paste the address as it stands here; change nothing in it.',
    'For a contact add a second record of its own after that, of the kind “contact” or “vCard”; or write the bytes, which have both.',
    'Write the tag. Then tap it with another phone, and see below whether the tap arrives.',
  ],
  written: 'I have written it',
  writtenLocked: 'I have written and locked it',
  writtenOn: (day: string, writes: number) =>
    writes > 1 ? `Written ${day}, ${figure(writes)} times in all.` : `Written ${day}.`,
  isLocked: 'It is locked: nothing can be written on it any more.',
  tapNow: 'Tap it now',
  tapNote: 'Hold a phone to the tag. This tap is your test and is not counted.',
  tapWaits: 'Waiting for a tap …',
  tapSeen: (time: string) => `Seen ${time}, not counted.`,
  tapNotSeen: 'No tap arrived within two minutes. See below why a tag may not be read.',
  tapOwn: 'A tap on this tag does not open the card: hold a phone to it and see for yourself.',

  phones: 'What phones do on a tap',
  phoneHead: ['Phone', 'A link', 'A contact after it', 'Basis'] as const,
  phoneRows: [
    [
      'Made since about 2018, of the family that reads in the background',
      'a notice appears while the screen is lit; a tap on it opens the link',
      'is passed over',
      'common practice, no published source',
    ],
    [
      'Of the same family, made before that',
      'only with a reading program opened first',
      'depends on that program',
      'common practice, no published source',
    ],
    [
      'Of the other family, with NFC switched on and unlocked',
      'opens at once in the browser',
      'is passed over, since the link is first',
      'common practice, no published source',
    ],
    ['Without NFC', 'nothing happens: put a code beside the tag', 'nothing happens', 'NFC Forum, NDEF 1.0'],
  ] as const,
  why: 'Why a tag is not read',
  whys: [
    'NFC is switched off, or the phone is locked or asleep: wake it, and switch NFC on in its settings.',
    'Metal behind it swallows its field: use a tag made for metal, or put a spacer of some millimetres between.',
    'It was not held where the phone reads: the upper edge of its back for one family, the middle of its back for the other.',
    'A thick case, a card in the case, or a second tag is in between.',
    'It was taken away too soon: hold it for a second.',
    'It is empty, or was torn away while it was written: write it again.',
  ],

  rows: {
    title: 'Tags',
    link: 'Tags',
    which: 'Of which placement',
    choice: (name: string, written: number, tags: number) => `${name} (${figure(written)} of ${figure(tags)} written)`,
    finding: (written: number, tags: number) =>
      written === tags
        ? plural(tags, { one: 'The tag is written.', other: 'All # tags are written.' })
        : `${figure(written)} of ${plural(tags, { one: '# tag is', other: '# tags are' })} written.`,
    none: 'No tags yet.',
    noneText:
      'Choose people in the list and make a tag for each of them, or make one from the hand-outs of a card. Here they are written one after the other, or listed for whoever encodes them.',
    toPeople: 'Choose people',
    part: (shown: number, total: number) => `The first ${figure(shown)} of ${figure(total)} are shown.`,
    column: { number: 'No.', person: 'Person', does: 'A tap', size: 'Bytes', state: 'State' },
    does: { card: 'opens the card', save: 'Save contact', frozen: 'carries a copy' },
    written: (day: string) => `written ${day}`,
    unwritten: 'to write',
    locked: 'locked',
    resting: 'resting',
    bytes: (used: number, room: number) => `${figure(used)} of ${figure(room)}`,
    now: 'Now',
    next: 'Next one',
    done: (name: string) => `✓ ${name} is written.`,
    allDone: 'Nothing is left to write here.',
    write: (name: string) => `Write the tag of ${name}`,
    choose: 'Write',
    chooseOf: (name: string) => `Write this one: ${name}`,
    mark: 'It is written',
    markAll: (count: number) => `All ${figure(count)} came back written`,
    markAllSure: 'Note it for all of them',
    markAllText:
      'For tags that somebody else has printed and encoded from the list. Tap a few of them before they go out.',
    supplier: 'List for whoever encodes them',
    csv: 'CSV',
    xlsx: 'XLSX',
    lost: 'Lost',
    lostOf: (name: string) => `Lost: the tag of ${name}`,
    lostTitle: (name: string) => `The tag of ${name} is lost`,
    lostText:
      'Whoever finds it and taps it reads that it rests, and no details. It works without the tag in hand, also for one that is locked.',
    rest: 'Let it rest now',
    restNotice: 'This tag was lost.',
    elsewhere: 'Or have it open another card',
    elsewhereHint: 'Name or audience of the card',
    frozenLost: 'It carries a copy of the contact, which nobody can take back; its link can rest.',
    open: 'Have it open that card',
    wake: 'Bring it back',
    wakeOf: (name: string) => `Bring back the tag of ${name}`,
  },
  people: {
    act: 'Tags …',
    title: (count: number) => plural(count, { one: 'A tag for # person', other: 'Tags for # people' }),
    where: 'Where they are',
    whereHint: 'As in “name badges of May”',
    does: 'What a tap does',
    make: 'Make them',
    note: 'Each opens its person’s first published card. Who has a tag there already keeps it.',
    without: (names: string[]) => `No published card, so no tag: ${names.join(', ')}.`,
    show: 'Show the tags',
    close: 'Close',
  },
  list: {
    column: {
      number: 'No.',
      person: 'Person',
      card: 'Card',
      does: 'A tap',
      link: 'Link',
      bytes: 'Bytes',
      size: 'Tag of at least, bytes',
    },
    does: {
      card: 'opens the card',
      save: 'saves the contact',
      frozen: 'link and contact: the bytes are downloaded one by one',
    },
  },

  bench: 'Tag bench',
  benchNote: 'A stand-in for a phone with NFC, for trying out: the tag is in this page’s memory.',
  benchHold: 'Hold the tag to it',
  benchState: 'The tag on the bench',
  benchKinds: {
    fine: 'empty, as large as needed',
    small: 'too small',
    locked: 'locked already',
    torn: 'torn away in the middle',
    other: 'of another kind',
  },
};
