/** What letters about an account say; each to the person whose account or address it is. */
const SIGNED = 'Heathland';
const HELLO = 'Hello,';
const NOT_ME = 'If this was not you, leave it: without this link nothing happens.';

export const LETTERS = {
  /** Nothing that somebody typed stands in a letter to an address that nobody has confirmed: whoever signs up could write to anybody by it. */
  confirm: (address: string) => ({
    subject: 'Confirm your address',
    greeting: HELLO,
    paragraphs: [
      'somebody, we hope you, has made an account of Heathland with this address. Confirm that it is yours: from then on a forgotten password can be mended by mail, and you can send mail to others.',
    ],
    act: { word: 'Confirm this address', address },
    below: ['The link holds for a week.', 'If you made no account, leave it: nobody can send mail in your name.'],
    signed: SIGNED,
  }),
  /** To somebody whose address another account wants. */
  taken: (address: string) => ({
    subject: 'You have an account already',
    greeting: HELLO,
    paragraphs: [
      'somebody, perhaps you, wanted to use this address for another account. You have one already: sign in there, or choose a new password.',
      'The other account cannot use your address, and has nothing of yours.',
    ],
    act: { word: 'Sign in', address },
    below: ['If it was not you there is nothing to do.'],
    signed: SIGNED,
  }),
  /** To a member's own address, with the pass of a card. */
  pass: (name: string, address: string) => ({
    subject: 'Your pass',
    greeting: `Hello ${name},`,
    paragraphs: [
      'here is the pass of your card. Open it on your phone, and the phone keeps it with your other passes.',
    ],
    act: { word: 'Open the pass on this phone', address },
    below: ['Whoever has this link can open the pass: do not forward it.'],
    signed: SIGNED,
  }),
  password: (name: string, address: string) => ({
    subject: 'Choose a new password',
    greeting: `Hello ${name},`,
    paragraphs: ['somebody, perhaps you, has forgotten the password of your account.'],
    act: { word: 'Choose a new password', address },
    below: ['The link holds for an hour, and works once.', NOT_ME],
    signed: SIGNED,
  }),
  passwordChanged: (name: string, when: string, address: string) => ({
    subject: 'Your password was changed',
    greeting: `Hello ${name},`,
    paragraphs: [`the password of your account was changed on ${when}. All other sessions have ended.`],
    act: { word: 'If it was not you: choose a new password', address },
    below: ['If it was you there is nothing to do.'],
    signed: SIGNED,
  }),
  newDevice: (name: string, device: string, when: string, address: string) => ({
    subject: 'Somebody signed in to your account',
    greeting: `Hello ${name},`,
    paragraphs: [
      `on ${when} somebody signed in to your account on a device that you had not used before: ${device}.`,
      'If that was you there is nothing to do.',
    ],
    act: { word: 'If it was not you: choose a new password', address },
    below: ['A new password ends all sessions. You see them under “Your sign-in”.'],
    signed: SIGNED,
  }),
  moveFrom: (name: string, to: string, address: string) => ({
    subject: 'Move your account to another address?',
    greeting: `Hello ${name},`,
    paragraphs: [
      `somebody who is signed in to your account wants to move it to ${to}. It moves once both addresses have agreed.`,
    ],
    act: { word: 'Agree, or stop it', address },
    below: [
      'The link holds for a day.',
      'If it was not you, stop it there and choose a new password: somebody knows your present one.',
    ],
    signed: SIGNED,
  }),
  moveTo: (address: string) => ({
    subject: 'Move an account to this address?',
    greeting: HELLO,
    paragraphs: ['an account of Heathland is to move to this address. Agree if it is yours.'],
    act: { word: 'Agree, or stop it', address },
    below: ['The link holds for a day.', NOT_ME],
    signed: SIGNED,
  }),
  moved: (name: string, to: string) => ({
    subject: 'Your account has moved',
    greeting: `Hello ${name},`,
    paragraphs: [`your account has moved to ${to}, as both addresses agreed. You sign in with that one from now on.`],
    act: null,
    below: ['If you did not want this, ask whoever runs this installation at once.'],
    signed: SIGNED,
  }),
};
