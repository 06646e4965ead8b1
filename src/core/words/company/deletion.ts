import { plural } from '@/core/language';

/** Deleting, and what is deleted and can be brought back. */
export const DELETION = {
  card: 'Delete card',
  person: 'Delete person',
  cardTitle: (name: string) => `Delete the card ${name}?`,
  personTitle: (name: string) => `Delete ${name} and all their cards?`,
  looking: 'Looking up what would stop working …',
  nothingOut: 'Nothing of it was ever given out: nobody will notice.',
  stops: 'This stops working at once:',
  address: (address: string, earlier: number) =>
    earlier === 0
      ? `/c/${address}`
      : `/c/${address} and ${plural(earlier, { one: 'an earlier address', other: '# earlier addresses' })}`,
  answers: 'answer with a note that the card was taken away',
  handOuts: (live: number) => plural(live, { one: 'a live hand-out', other: '# live hand-outs' }),
  frozen: (frozen: number) =>
    plural(frozen, {
      one: 'A frozen hand-out keeps what it carries: collect it if you can.',
      other: '# frozen hand-outs keep what they carry: collect them if you can.',
    }),
  saves: (saves: number) =>
    plural(saves, {
      one: 'The contact was saved once: that copy stays in an address book.',
      other: 'The contact was saved # times: those copies stay in address books.',
    }),
  planned: 'Its plan is given up.',
  insteadOf: (cards: string[]) => `${cards.join(', ')} would no longer send recipients here.`,
  members: (names: string[]) => `${names.join(', ')} would have no record of their own any more.`,
  reserved: 'Addresses and codes stay reserved and are never given to anybody else.',
  until: (days: number) =>
    `You can bring everything back for ${plural(days, { one: 'a day', other: '# days' })}. After that it is erased for good.`,
  cancel: 'Keep',
  confirm: 'Delete',

  title: 'Deleted',
  link: (count: number) => `Deleted (${count})`,
  none: 'Nothing is deleted.',
  noneText: 'Cards and people that you delete wait here for 30 days before they are erased.',
  column: { what: 'What', deleted: 'Deleted', erased: 'Will be erased' },
  wholePerson: 'the person and their cards',
  back: 'Bring back',
  backOf: (name: string) => `Bring back ${name}`,
  toCard: 'Open the card',
  toPerson: 'Open the record',
  isBack: (name: string) => `${name} is back.`,

  account: 'Delete your account',
  accountText:
    'You are signed out everywhere. Your name and mail address are erased after 30 days; records and cards stay with the organisation.',
  accountTitle: 'Delete your account?',
  alone: 'Delete your account',
  aloneText:
    'Every card of yours stops working at once. For 30 days you can sign in and bring all of it back; after that it is erased for good.',
  organisation: (name: string) => `Delete ${name}`,
  organisationText:
    'Every card of everybody stops working at once, and everybody else is signed out. For 30 days an owner can bring all of it back; after that it is erased for good.',
  organisationTitle: (name: string) => `Delete ${name} with everything in it?`,
  organisationGone: (name: string) => `${name} is deleted`,
  organisationErased: (day: string) =>
    `All of it is erased on ${day}. Until then an owner can bring it back as it was.`,
  organisationBack: 'Bring everything back',
};
