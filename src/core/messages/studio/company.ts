import type { Act } from '@/core/access/acts';
import type { Role } from '@/core/access/permissions';

/** What each role is for, in one line. */
export const ROLE_NOTES: Record<Role, string> = {
  owner: 'everything, members and the audit trail included',
  administrator: 'everybody’s records, cards and hand-outs',
  'brand keeper': 'sees all cards and words them; changes no record, publishes nothing',
  holder: 'their own record and cards',
  analyst: 'figures only, no details',
};

/** What the audit trail tells of, as its reader sees it. */
export const ACT_WORDS: Record<Act, string> = {
  'account.made': 'made the account',
  'session.begun': 'signed in',
  'password.changed': 'changed their password',
  'member.added': 'added a member',
  'member.changed': 'changed a member',
  'member.password-set': 'set a first password for a member',
  'member.removed': 'removed a member',
  'record.made': 'made a record',
  'record.imported': 'imported a record',
  'record.changed': 'changed a record',
  'record.removed': 'removed a record again',
  'photo.added': 'gave a photo',
  'import.begun': 'gave a contact file',
  'import.taken': 'took in contacts',
  'import.undone': 'undid taking in contacts',
  'contacts.exported': 'exported contacts',
  'card.made': 'made a card',
  'card.changed': 'changed a card',
  'card.published': 'published a card',
  'card.planned': 'planned when a card goes out or ends',
  'film.added': 'gave a film or captions',
  'house.saved': 'saved the house style',
  'look.overridden': 'gave a card something else than the house style says',
  'contrast.overridden': 'published colours that do not read',
  'look.kept': 'put a look by',
  'look.removed': 'removed a look',
  'prefix.set': 'was given the beginning of its addresses',
  'prefix.asked': 'asked for a beginning of addresses',
  'card.state-set': 'let a card rest, retired or woke it',
  'wording.adopted': 'adopted a card’s wording into a record',
  'preview.made': 'made a private preview of a card',
  'audiences.changed': 'changed the audience presets',
  'address.set': 'set a short address',
  'hand-out.made': 'made a hand-out',
  'job.asked': 'asked for a job',
  'job.cancelled': 'cancelled a job',
};

/** What files take. */
export const STORAGE = {
  finding: (used: string, limit: string) => `Your files take ${used} of ${limit}.`,
  note: 'Pictures and videos that nothing shows any more go by themselves after 30 days.',
  column: { what: 'What', size: 'Size' },
  what: { pictures: 'Pictures', films: 'Videos and their captions', imports: 'Contact files waiting for review' },
  meter: 'Storage in use',
};

/** The company: its members, the audit trail. */
export const COMPANY = {
  title: 'Company',
  turns: 'Turns of the company',
  addressesText:
    'Short addresses of this organisation can begin alike, so that a printed one is known for yours at a glance. Addresses that were given keep leading where they lead.',
  prefix: 'Ask for a beginning of your own',
  anotherPrefix: 'Ask for another beginning',
  prefixNow: 'New addresses begin with',
  noPrefix: 'whatever is free',
  prefixExample: '-ilse-varrow',
  prefixNote:
    'Letters a to z, digits, single hyphens. Whoever runs Heathland gives it, so that nobody takes a name that is not theirs; then nobody else gets an address that begins so.',
  askPrefix: 'Ask for it',
  askedPrefix: (prefix: string) => `You asked for “${prefix}”. Whoever runs Heathland gives it with`,
  withdrawPrefix: 'Take the request back',
  turn: {
    members: 'Members',
    audiences: 'Audiences',
    addresses: 'Addresses',
    storage: 'Storage',
    audit: 'Audit trail',
    jobs: 'Jobs',
  },

  managesNote: 'Members sign in with a first password that you give them; they must change it at once.',
  seesNote: 'The owner adds members and changes their roles.',
  addMember: 'Add a member',
  column: { member: 'Member', email: 'E-mail', role: 'Role', ownRecord: 'Own record' },
  you: 'you',
  firstPasswordMark: 'first password',
  hasLeft: 'has left',
  roleOf: (member: string) => `Role of ${member}`,
  ownRecordOf: (member: string) => `Own record of ${member}`,
  none: 'none',
  newPassword: 'New password',
  newPasswordFor: (member: string) => ` for ${member}`,
  firstPassword: 'First password',
  firstPasswordNote: 'Tell it to them yourself. It must be changed at the first sign-in.',
  addTheMember: 'Add the member',
  firstPasswordFor: (member: string) => `A first password for ${member}`,
  newPasswordNote: 'They are signed out everywhere and must change it when they sign in.',
  setIt: 'Set it',
  removeTitle: (member: string) => `Remove ${member}?`,
  removeText: (member: string) =>
    `${member} is signed out at once and can no longer sign in. Their record, cards and codes go on working, and the audit trail keeps what they did.`,
  keep: 'Keep',

  who: 'Who',
  everybody: 'everybody',
  didWhat: 'Did what',
  didAnything: 'did anything',
  showAll: 'Show all',
  auditNote: (timeZone: string) => `Nothing here can be changed or removed. Times of ${timeZone}.`,
  auditColumn: { when: 'When', who: 'Who', did: 'Did', to: 'To', with: 'With' },
  onlyThis: 'only this',
  onlyThisOf: (subject: string) => `only this: what happened to ${subject}`,
  nothingFits: 'Nothing fits these filters.',
  nothingYet: 'Whatever members do is written down here.',
  earlier: 'Earlier',
  /** What has no name, or has lost it. */
  some: {
    record: 'a record',
    card: 'a card',
    'hand-out': 'a hand-out',
    member: 'a member',
    job: 'a job',
    picture: 'a photo',
    import: 'a contact file',
  },
};
