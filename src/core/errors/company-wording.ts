import type { Entry } from './entry';

/** Wording of what can be wrong with what is done for many people at once, and with offices and invitations. */
export const COMPANY_WORDING: {
  [
    C in
      | 'CARD_UNPUBLISHED'
      | 'HAS_LEFT'
      | 'HAS_ACCOUNT'
      | 'NO_WORK_MAIL'
      | 'NO_HOUSE'
      | 'CODE_UNREADABLE'
      | 'OFFICE_THERE'
      | 'OFFICE_CHANGED'
      | 'PATTERN_UNREADABLE'
      | 'CARD_PLANNED'
      | 'LEADS_FULL'
      | 'TOO_MANY_NOTES'
      | 'ADDRESS_UNCONFIRMED'
  ]: Entry<C>;
} = {
  CARD_UNPUBLISHED: {
    status: 409,
    say: () =>
      'This card has changes that are not published. Publish it first, so that nothing else goes out with this.',
  },
  LEADS_FULL: {
    status: 409,
    say: ({ limit }) => `You have ${limit.toLocaleString('en-GB')} leads. Erase some that nobody needs any more.`,
  },
  TOO_MANY_NOTES: { status: 409, say: ({ limit }) => `A lead has ${limit} of these at most. Take some away first.` },
  ADDRESS_UNCONFIRMED: {
    status: 409,
    say: () =>
      'They typed this address into your form and have not followed the link of their mail yet. Until they do, nothing more is sent there from here: write with your own mail program.',
  },
  HAS_LEFT: { status: 409, say: () => 'They have left.' },
  HAS_ACCOUNT: { status: 409, say: () => 'They have an account already, or were invited before.' },
  NO_WORK_MAIL: { status: 422, say: () => 'Their record has no e-mail for work to write to.' },
  NO_HOUSE: { status: 422, say: () => 'There is no house style that says how codes are drawn.' },
  CODE_UNREADABLE: { status: 422, say: () => 'In the house’s style this code would not be read; it stays as it is.' },
  OFFICE_THERE: { status: 409, say: () => 'There is an office of that name already.' },
  OFFICE_CHANGED: {
    status: 409,
    say: () => 'Somebody else has saved this office meanwhile. Load it again; what you typed is still here to copy.',
  },
  PATTERN_UNREADABLE: {
    status: 422,
    say: (p) => `“${p.part}” is nothing that a file name can be made of. Choose among the parts below.`,
  },
  CARD_PLANNED: {
    status: 409,
    say: () => 'This card is planned to go out later as it was. Change its plan first.',
  },
};
