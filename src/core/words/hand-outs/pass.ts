import { figure } from '@/core/language';

/** The pass that a phone keeps, to show the code of a card. */
export const PASS_WORDS = {
  cardOf: (name: string) => `Card of ${name}`,
  get: 'Get it on your phone',
  scan: 'Scan this with the phone that is to keep it. It is yours: whoever has this code can open the pass.',
  codeAlt: 'A code that opens the pass',
  mail: 'Mail it to me',
  mailed: 'On its way to your own address.',
  mailWhy: {
    yes: '',
    unconfirmed: 'Confirm your address first, under “Your sign-in”.',
    closed: 'No mail leaves this installation.',
  },
  download: 'Download pass',
  fileNote: (bytes: number) =>
    `${figure(Math.round(bytes / 1_000))} KB, signed. It is renewed when the phone asks for what is new.`,
  standIn:
    'Signed by the stand-in of this installation, which no phone trusts: to open passes on phones, whoever runs Heathland sets a certificate.',
  front: 'Front',
  back: 'Back',
  passed: 'Ready for your phone.',
  failed: 'No phone would take it: see what was measured.',
  leaving: 'Private, and whoever you show the pass to can read it:',
  outdated: 'The card says something else on it by now, and that is not published. The pass says what is published.',
  shows: 'Its code opens',
} as const;
