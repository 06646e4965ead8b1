import { sayFinding } from '@/core/findings';
import type { PasswordWeakness } from './weakness';
import { megabytes, type Entry } from './entry';
import type { Problem, ProblemCode } from './problems';
import { COMPANY_WORDING } from './company-wording';
import { SHEET_WORDING } from './sheet-wording';

const WEAK: Record<PasswordWeakness, string> = {
  known: 'This password, or one much like it, stands on lists of stolen ones.',
  'your own words': 'This password is made of your own name, address or organisation.',
  'keys in a row': 'This password follows the keys of a keyboard.',
  repeats: 'This password repeats itself.',
  'a sequence': 'This password is a sequence that is guessed first.',
  'a date': 'This password is a date or a year, which is guessed first.',
  'a word': 'This password is a single word.',
  'a name': 'This password is a name.',
  short: 'This password can be guessed too soon.',
};

/** HTTP status and wording of each problem: what is wrong and what to do. The only place where errors are worded. */
const CATALOGUE: { [C in ProblemCode]: Entry<C> } = {
  INPUT: { status: 400, say: () => 'Something in this form cannot be read. Check the marked field.' },
  TEXT_TOO_LONG: { status: 422, say: (p) => `This is longer than ${p.limit} characters. Shorten it.` },
  NAME_MISSING: { status: 422, say: () => 'Give a name.' },
  PHONE_UNREADABLE: {
    status: 422,
    say: () => 'This is not a telephone number. Write it with its country code, as in +44 20 7946 0182.',
  },
  EMAIL_UNREADABLE: { status: 422, say: () => 'This is not an e-mail address. It needs the form name@host.example.' },
  LINK_UNREADABLE: { status: 422, say: () => 'This is not a web address. It needs the form host.example/page.' },
  LINK_SCHEME_REFUSED: {
    status: 422,
    say: (p) => `A link that starts with “${p.scheme}:” can run a program on a recipient’s phone. Use https.`,
  },
  BIRTHDAY_UNREADABLE: { status: 422, say: () => 'Write the birthday as year-month-day, as in 1984-06-30.' },
  HOURS_UNREADABLE: { status: 422, say: () => 'Write hours as in “Tue-Sat 8:30-16, Sun 10-12”.' },
  WORDING_NOT_POSSIBLE: { status: 422, say: () => 'This is changed in the record, not on the card.' },
  TOO_MANY_DETAILS: { status: 422, say: (p) => `A record holds at most ${p.limit} details.` },
  NOT_A_CONTACT_FILE: {
    status: 422,
    say: () =>
      'This is not a contact file. Export the contact from a phone or mail program as vCard (.vcf) and drop that.',
  },
  CONTACT_FILE_EMPTY: { status: 422, say: () => 'The contact file holds no name and no details.' },
  TOO_MANY_CONTACTS: {
    status: 422,
    say: (p) => `The file holds ${p.found} contacts; at most ${p.limit} come in at once. Split it.`,
  },
  ...SHEET_WORDING,
  ...COMPANY_WORDING,
  TEAM_THERE: { status: 409, say: () => 'There is a team of that name already.' },
  FILE_TOO_LARGE: {
    status: 413,
    say: (p) => `The file is larger than ${megabytes(p.limitBytes)}. Make it smaller and try again.`,
  },
  PICTURE_UNREADABLE: {
    status: 422,
    say: () => 'This picture cannot be read. Use JPEG, PNG, WebP, AVIF or, for a logo, SVG.',
  },
  PICTURE_HEIC: {
    status: 422,
    say: () =>
      'This is a HEIC photo, which browsers cannot show. Choose JPEG when you share or export it from the phone, and use that.',
  },
  PICTURE_TOO_LARGE: {
    status: 422,
    say: (p) => `This picture has more than ${p.limitMegapixels} megapixels. Scale it down.`,
  },
  DRAWING_TOO_COMPLEX: {
    status: 422,
    say: (p) =>
      `This drawing has more than ${p.elements} elements, or more than ${p.depth} within each other. Simplify it, or save it as PNG.`,
  },
  TOO_MUCH_SHOWN: {
    status: 422,
    say: (p) =>
      p.lines > p.mostLines
        ? `A card shows at most ${p.mostLines} lines; these are ${p.lines}. Untick some.`
        : `A card shows at most ${p.mostLetters.toLocaleString('en-GB')} letters in all; these are ${p.letters.toLocaleString('en-GB')}. Shorten or untick something.`,
  },
  DESIGN_UNREADABLE: {
    status: 422,
    say: () => 'This is no picture, drawing or PDF that can be read. Use PNG, JPEG, WebP, SVG or PDF.',
  },
  DESIGN_LOCKED: {
    status: 422,
    say: () => 'This PDF is locked with a password. Save it without one, or drop a picture of the page.',
  },
  ARTWORK_UNREADABLE: {
    status: 422,
    say: () => 'This is no PDF, PNG or JPEG that can be read. Save the design once more, as the print shop wants it.',
  },
  TAG_UNREADABLE: { status: 422, say: () => 'What lies on this tag is no message that can be read.' },
  TAG_LOCKED: {
    status: 409,
    say: () => 'This tag was locked when it was written: nothing can be written on it any more. Make a new one.',
  },
  TAG_TOO_SMALL: {
    status: 422,
    say: ({ bytes, room }) =>
      `${bytes} bytes do not fit into the ${room} of this tag. Take a larger one, or untick a line in its column.`,
  },
  ARTWORK_LAYERS: {
    status: 422,
    say: () =>
      'Some layers of this PDF are switched off, and might be printed. Save it with those only that are wanted.',
  },
  FILM_UNREADABLE: {
    status: 422,
    say: () => 'This is no film that browsers play. Use MP4 or WebM; most phones and editors export MP4.',
  },
  CAPTIONS_UNREADABLE: {
    status: 422,
    say: (p) => `These captions stop being WebVTT at line ${p.line}. Export them as .vtt in UTF-8.`,
  },
  FILE_GONE: {
    status: 422,
    say: () => 'A block shows a picture or film that is no longer there. Take it out or put in another.',
  },
  PLAN_IN_THE_PAST: { status: 422, say: () => 'This time has passed. Choose a later one.' },
  PLAN_ENDS_BEFORE: { status: 422, say: () => 'The card would end before it begins. Choose a later end.' },
  REVISION_TOO_OLD: {
    status: 409,
    say: () => 'This revision was published before drafts were kept with it. It can be compared, not restored.',
  },
  PREFIX_MISSING: {
    status: 422,
    say: (p) => `Addresses of this organisation begin with “${p.prefix}-”. Put that in front.`,
  },
  PREFIX_TAKEN: { status: 409, say: () => 'Another organisation’s addresses begin like this. Choose another.' },
  ADDRESS_SHAPE: {
    status: 422,
    say: () =>
      'A short address holds letters a to z, digits and single hyphens, and starts and ends with a letter or digit.',
  },
  ADDRESS_LENGTH: { status: 422, say: (p) => `A short address has ${p.shortest} to ${p.longest} characters.` },
  ADDRESS_FOREIGN_LETTERS: {
    status: 422,
    say: (p) =>
      `“${p.letters}” is not one of the letters a to z, though it may look like one; others could not type it.` +
      (p.suggestion ? ` “${p.suggestion}” would do.` : ''),
  },
  ADDRESS_RESERVED: { status: 422, say: () => 'This address is reserved. Choose another.' },
  MAIL_UNAVAILABLE: {
    status: 503,
    say: () => 'The mail server does not take mail at the moment. Nothing was sent; try again in a while.',
  },
  MAIL_CLOSED: {
    status: 503,
    say: () => 'This installation sends no mail. Ask whoever runs it.',
  },
  LINK_ENDED: {
    status: 410,
    say: () => 'This link was used already or has ended. Ask for another one.',
  },
  EMAIL_UNCONFIRMED: {
    status: 403,
    say: () => 'Confirm your own address first: what you send to others, and whom you add, is in your name.',
  },
  TOO_MUCH_MAIL: {
    status: 429,
    say: (p) => `${p.limit} mails of your organisation wait to be sent. Send more once they have left.`,
  },
  MAIL_REFUSED: {
    status: 422,
    say: (p) => `The mail server refused this mail (${p.status}). Check the address that it goes to.`,
  },
  OCCASION_USED: {
    status: 409,
    say: (p) =>
      `${p.count === 1 ? 'One hand-out is' : `${p.count} hand-outs are`} for this occasion, and their figures stay with it. Change its days instead.`,
  },
  HAND_OUT_FIXED: {
    status: 409,
    say: () => 'This hand-out carries one card’s lines in itself and stays with it. Make a new one for the other card.',
  },
  HAND_OUT_TAKEN: {
    status: 409,
    say: () =>
      'This frozen code was downloaded or copied, and may be printed by now. Make a new code for another style.',
  },
  OWNED: { status: 403, say: (p) => `The ${p.kind} belongs to the organisation: ${p.reason}` },
  LOCKED: { status: 403, say: (p) => `The house style keeps the ${p.part} as it is: ${p.reason}` },
  OVERRIDE_NOT_ALLOWED: {
    status: 403,
    say: () => 'Only those who keep the house style may give a card something else. Ask them.',
  },
  LAYOUT_NOT_ALLOWED: {
    status: 422,
    say: () => 'The house style does not allow this layout. Choose one of those it does.',
  },
  CONTRAST_FAILS: {
    status: 422,
    say: (p) =>
      `${p.count === 1 ? 'A pair of colours does' : `${p.count} pairs of colours do`} not read: ${p.worst.toFixed(2)} to 1 where ${p.needs} is needed. Change the ink beside the colours, or have it overridden by whoever may.`,
  },
  STRIP_UNFINISHED: { status: 422, say: () => 'A notice needs words, a first day and a last day.' },
  STRIP_ENDS_BEFORE: { status: 422, say: (p) => `The notice “${p.text}” would end before it begins.` },
  HOUSE_CHANGED: {
    status: 409,
    say: () => 'Somebody else has saved the house style meanwhile. Look at theirs, then save again.',
  },
  TOO_MANY_LINKS: {
    status: 422,
    say: (p) => `This piece has ${p.limit} links for designers. End one that nobody needs any more.`,
  },
  TOO_MANY_RUNS: {
    status: 422,
    say: (p) => `At most ${p.limit} print runs are kept of a piece. Remove old ones first.`,
  },
  TEMPLATES_FULL: { status: 422, say: (p) => `At most ${p.limit} templates are kept. Remove one first.` },
  SPARES_FULL: {
    status: 422,
    say: (p) => `At most ${p.limit} codes wait for a card. Give some of them to cards first.`,
  },
  CODE_NOT_SPARE: {
    status: 422,
    say: () =>
      'None of yours waits for a card under that. Look once more: its number, or the eight letters and digits at the end of its address.',
  },
  CODE_GIVEN: {
    status: 409,
    say: () =>
      'That one was given to a card already. Find it by its code under Go to, and have it open another card from there.',
  },
  CODE_SPARE: { status: 404, say: () => 'This code points at no card yet.' },
  HAND_OUT_THERE: {
    status: 409,
    say: () =>
      'This card has such a hand-out already, with that placement and occasion: use that one, or name this one otherwise.',
  },
  CONTACTS_FULL: {
    status: 422,
    say: (p) => `You keep ${p.limit} contacts, as many as there is room for. Remove one first.`,
  },
  NOTHING_TICKED: { status: 422, say: () => 'Tick at least one line that goes along with the name.' },
  TOO_MANY_LOOKS: { status: 422, say: (p) => `At most ${p.limit} looks can be put by. Remove one first.` },
  LOOK_NAME_TAKEN: { status: 409, say: () => 'A look of this name is put by already. Give it another name.' },
  TOO_MANY_ADDRESSES: {
    status: 422,
    say: (p) =>
      `This card has had ${p.limit} addresses, and each keeps leading to it for good. Publish under one of these.`,
  },
  QUOTA_FULL: {
    status: 507,
    say: (p) =>
      `The files of this organisation would take more than ${megabytes(p.limitBytes)}. Remove pictures and videos that nothing shows, or ask whoever runs Heathland.`,
  },
  ADDRESS_TAKEN: {
    status: 409,
    say: () => 'This address is taken. Addresses are never given to anybody else, so choose another.',
  },
  ADDRESS_LOOKS_LIKE_ANOTHER: {
    status: 409,
    say: () =>
      'This address looks the same as one in use (0 for o, 1 for l, rn for m). Choose one that cannot be mistaken.',
  },
  CARD_CHANGED: {
    status: 409,
    say: () => 'This card was changed in another window. Your last edit is still here and not yet saved.',
  },
  RECORD_CHANGED: {
    status: 409,
    say: () => 'This record was changed in another window. Your last edit is still here and not yet saved.',
  },
  CARD_NOT_PUBLISHED: { status: 409, say: () => 'Publish the card first.' },
  PASS_UNSIGNED: {
    status: 503,
    say: ({ fault }) =>
      fault === 'ended'
        ? 'The certificate that signs passes has ended. Whoever runs Heathland has to renew it (PASS_CERTIFICATE).'
        : fault === 'unreadable'
          ? 'The certificate that signs passes cannot be read, or its key or authority does not fit it. Whoever runs Heathland has to mend that (PASS_CERTIFICATE, PASS_AUTHORITY).'
          : 'The certificate that signs passes does not say for which kind of pass it is. Whoever runs Heathland needs one for passes (PASS_CERTIFICATE).',
  },
  CARD_NOT_OUT: { status: 409, say: () => 'This card was never published, so there is nothing to rest or retire.' },
  TOO_MANY_CARDS: { status: 422, say: (p) => `A person has at most ${p.limit} cards. Retire one first.` },
  TOO_MANY_LINES: { status: 422, say: (p) => `A card has at most ${p.limit} lines.` },
  COLLEAGUE_NOT_OUT: { status: 422, say: () => 'The card shown instead must be another one that is published.' },
  PREVIEW_EXPIRED: { status: 410, say: () => 'This preview has expired. Make a new one from the card.' },
  CONTENT_TOO_LARGE: {
    status: 422,
    say: (p) => `${p.bytes} bytes do not fit into ${p.room}. Untick a line in its column.`,
  },
  CONTENT_EMPTY: { status: 422, say: () => 'A code of nothing says nothing. Fill this in.' },
  STYLE_DOES_NOT_READ: {
    status: 422,
    say: (p) =>
      `Only ${p.read} of ${p.of} trial pictures of this code were read. Make it plainer, or have it as it was.`,
  },
  NOTHING_ON_PAGE: { status: 422, say: () => 'Nothing but the name would go out. Tick a line first.' },
  PROOF_FAILED: {
    status: 422,
    say: (p) => `Not published: the proof of the ${p.channel} failed. ${sayFinding(p.finding)}`,
  },
  ORGANISATION_DELETED: { status: 403, say: () => 'This organisation is deleted. An owner can bring it back.' },
  CARD_DELETED: { status: 410, say: () => 'This card is deleted. Until it is erased it can be brought back.' },
  NOT_FOUND: { status: 404, say: () => 'There is nothing here, or it is not yours to see.' },
  NOT_ALLOWED: { status: 403, say: () => 'Your role in this organisation does not include this. Ask its owner.' },
  TOO_MANY_REQUESTS: {
    status: 429,
    say: (p) => `That was too much at once. Wait ${p.seconds} seconds, then try again; what you typed is still here.`,
  },
  TOO_BUSY: {
    status: 503,
    say: (p) => `Too much is being worked on at this moment. Wait ${p.seconds} seconds, then try again.`,
  },
  TOO_LABORIOUS: {
    status: 422,
    say: () => 'This takes longer to work out than it may. Make it simpler or smaller, then try again.',
  },
  PASSWORD_MUST_CHANGE: { status: 403, say: () => 'Choose a password of your own first; this one was set for you.' },
  PASSWORD_SAME: { status: 422, say: () => 'This is the password that you have. Choose another.' },
  PASSWORD_WRONG: { status: 422, say: () => 'This is not your present password.' },
  LAST_OWNER: { status: 409, say: () => 'An organisation keeps at least one owner. Make somebody else owner first.' },
  TOO_MANY_MEMBERS: { status: 422, say: (p) => `An organisation has at most ${p.limit} members who sign in.` },
  HOLDER_NEEDS_RECORD: { status: 422, say: () => 'A holder needs the record that is theirs. Choose it.' },
  TOO_MANY_JOBS: {
    status: 429,
    say: (p) => `${p.limit} jobs of this organisation are waiting already. Let some of them end first.`,
  },
  JOB_ENDED: { status: 409, say: () => 'This job has ended already.' },
  IMPORT_BUSY: { status: 409, say: () => 'This file is being worked on just now. Wait until it is done.' },
  IMPORT_ENDED: { status: 409, say: () => 'This file was taken in already; it can be undone, not chosen anew.' },
  NOTHING_CHOSEN: { status: 422, say: () => 'Nothing is chosen. Tick at least one contact.' },
  TOO_MANY_CHOSEN: { status: 422, say: (p) => `At most ${p.limit} contacts go out at once. Choose fewer.` },
  STORE_FULL: {
    status: 507,
    say: () => 'There is no room left for files. Nothing was changed; whoever runs Heathland must make room.',
  },
  STORE_UNAVAILABLE: {
    status: 503,
    say: () => 'The store of pictures does not answer. Nothing was changed; try again.',
  },
  SIGNED_OUT: { status: 401, say: () => 'You are signed out. Sign in again in another window, then try once more.' },
  SIGN_IN_FAILED: { status: 401, say: () => 'E-mail address and password do not match.' },
  SIGN_UP_CLOSED: {
    status: 403,
    say: () => 'Here nobody makes an account by themselves. Ask whoever gave you this address.',
  },
  EMAIL_IN_USE: { status: 409, say: () => 'There is an account with this e-mail address. Sign in instead.' },
  PASSWORD_SHORT: {
    status: 422,
    say: (p) => `Use at least ${p.shortest} characters. A few words make a good password.`,
  },
  PASSWORD_LONG: { status: 422, say: (p) => `Use at most ${p.longest} characters.` },
  PASSWORD_WEAK: {
    status: 422,
    say: (p) => `${WEAK[p.why]} Take a few words that have nothing to do with each other.`,
  },
  PASSWORD_STALE: { status: 403, say: () => 'Type your password once more for this.' },
  SECOND_FACTOR_NEEDED: {
    status: 401,
    say: () => 'Type the code that your authenticator app shows, or a recovery code.',
  },
  SECOND_FACTOR_WRONG: {
    status: 401,
    say: () => 'This code is not right, or was used already. Wait for the next one, and check the clock of your phone.',
  },
  SECOND_FACTOR_REQUIRED: {
    status: 403,
    say: () => 'Your organisation wants a second factor. Set one up first.',
  },
  SECOND_FACTOR_ON: { status: 409, say: () => 'A second factor is set up already. Turn it off first.' },
  TIME_ZONE_UNKNOWN: { status: 422, say: () => 'This time zone is not known here. Choose one of the list.' },
  CROSS_SITE: { status: 403, say: () => 'This request came from another site and was refused.' },
  DATABASE_UNAVAILABLE: {
    status: 503,
    say: () => 'The database does not answer. What you typed stays here and is saved as soon as it is back.',
  },
  OFFLINE: { status: 503, say: () => 'No connection. What you typed stays here and is saved as soon as there is one.' },
  UNEXPECTED: {
    status: 500,
    say: () => 'Something failed here that should not have. Try again; what you typed is still here.',
  },
};

const entryOf = (problem: Problem) => CATALOGUE[problem.code] as Entry<ProblemCode>;

/** The sentence that stands beside the cause. */
export const wordingOf = (problem: Problem): string => entryOf(problem).say(problem as never);

/** The HTTP status of a problem. */
export const statusOf = (problem: Problem): number => entryOf(problem).status;
