import { plural } from '@/core/language';
/** A member's own sign-in: password, second factor, sessions. */
export const ACCOUNT = {
  title: 'Your sign-in',
  link: 'Your sign-in',
  of: (name: string) => `How ${name} signs in`,
  mustTitle: 'Set up a second factor first',
  mustText: 'Your organisation wants one of everybody. It takes a minute and a phone with an authenticator app.',
  passwordNote: 'Changing it ends all your other sessions.',

  secondFactor: 'Second factor',
  isOff:
    'With a second factor a stolen password alone lets nobody in: signing in then asks for a code that an authenticator app on your phone shows.',
  isOn: (codes: number) =>
    `It is on: signing in asks for a code of your authenticator app. ${plural(codes, { one: 'One recovery code is', other: '# recovery codes are' })} left.`,
  setUp: 'Set up a second factor',
  turnOff: 'Turn it off',
  scan: 'Scan this with an authenticator app on your phone, then type the code that it shows.',
  codeOfKey: 'Code of the key for the authenticator app',
  orType: 'Or type this key into the app:',
  firstCode: 'Code of the app',
  turnOn: 'Turn it on',
  codesText:
    'Second factor is on. Keep these recovery codes where you find them without your phone; each works once, and they are shown this once.',
  copyCodes: 'Copy the codes',
  keptCodes: 'I have kept them',

  address: 'Address',
  isConfirmed: 'confirmed',
  notConfirmed: 'not confirmed yet: a forgotten password cannot be mended by mail, and mail to others waits',
  otherAddress: 'Move to another address',
  askToMove: 'Ask both addresses',
  moveAsked: (both: boolean) =>
    both
      ? 'Two mails are on their way. The account moves once both addresses have agreed.'
      : 'A mail is on its way. The account moves once the new address has agreed.',
  sendAgain: 'Send the mail again',
  sentAgain: 'A mail is on its way.',

  sessions: 'Where you are signed in',
  sessionsNote: (timeZone: string) =>
    `A session ends after 14 days, or after 3 days in which nobody uses it. Times of ${timeZone}.`,
  device: { phone: 'A phone', tablet: 'A tablet', computer: 'A computer', program: 'A program' } as Record<
    string,
    string
  >,
  thisOne: 'this one',
  begun: 'since',
  seen: 'used last',
  endOne: 'End this one',
  endOthers: 'End all others',

  confirmTitle: 'Is it you?',
  confirmText:
    'This can do harm in somebody else’s hands, so type your password once more. It holds for a quarter of an hour.',
  goOn: 'Go on',
};
