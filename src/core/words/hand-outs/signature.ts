import type { SignatureLayout, Variant } from '@/core/signature';

/** The mail signature of a card. */
export const SIGNATURE = {
  frame: 'The signature as it is formatted',
  darkFrame: 'The signature on a dark ground',
  layout: 'Layout',
  layouts: { beside: 'Picture beside', below: 'All below each other' } satisfies Record<SignatureLayout, string>,
  locked: 'Laid out by your organisation:',
  variant: 'For',
  variants: { message: 'new messages', reply: 'replies' } satisfies Record<Variant, string>,
  parts: { picture: 'Pictures', link: 'Link to the card', contact: 'Attach the contact file' },
  partsOf: (variant: Variant) => `In ${SIGNATURE.variants[variant]}`,
  contactNote:
    'An attached contact reaches people who open no links, but many programs show it as something to open, and filters look at it. Pasted HTML cannot attach a file: the test mail and the draft do.',
  noPicture: 'No picture is ticked for the signature: tick one on the card’s table, and publish.',
  pictures: 'Pictures',
  picturesAre: { linked: 'linked', inside: 'inside the mail' },
  picturesNote: {
    linked: 'Mails stay small, and show the picture of the day. Many programs ask before they load it.',
    inside: 'Seen without asking, also without a network. Each mail is larger.',
  },
  seen: 'As it is seen',
  views: { day: 'By day', night: 'Dark', blocked: 'Pictures blocked', text: 'As text', short: 'Short, for phones' },
  proof: 'What was measured',
  use: 'Use it',
  copy: 'Copy formatted',
  copied: 'Copied. Paste it into the signature of your mail program.',
  notCopied: 'This browser did not let it be copied: open the draft instead.',
  copyHtml: 'Copy HTML',
  copyText: 'Copy text',
  copyShort: 'Copy the short one',
  draft: 'Draft (.eml)',
  html: 'HTML file',
  test: 'Send me a test mail',
  testSent: 'A mail is on its way to you.',
  testUnconfirmed: 'Confirm your own address first, under “Your sign-in”.',
  noMail: 'This installation sends no mail: open the draft in your mail program instead.',
  leaving: 'Goes to everybody whom you write to:',
  saving: 'saving …',
  published: 'It shows what is published: ticks that were changed since appear once the card is published.',
  ticks: 'Choose its lines',
  steps: 'How to put it in',
  stepsFor: 'Mail program',
  kinds: {
    computer: {
      name: 'on a computer',
      steps: [
        'Press “Copy formatted” above.',
        'Open the settings of your mail program and look for “Signatures” (often under “Accounts” or “Compose”).',
        'Make a new signature, click into its field and paste.',
        'Choose it for new messages; copy the one for replies and choose that for replies and forwarding.',
        'Write a message to yourself and look.',
      ],
    },
    browser: {
      name: 'in a browser',
      steps: [
        'Press “Copy formatted” above.',
        'Open the settings of your mail (a wheel, or your picture), then “General” or “Mail”, then “Signature”.',
        'Make a new one, click into its field and paste. Pictures appear at once.',
        'Choose it for new messages and for replies, and save at the foot of the page.',
      ],
    },
    phone: {
      name: 'on a phone',
      steps: [
        'Open this page on the phone, or send yourself the test mail.',
        'Press “Copy the short one” here, or mark the signature in the test mail and copy it.',
        'Open the settings of the mail app (or of the phone, under “Mail”), then “Signature”, and paste.',
      ],
    },
    many: {
      name: 'for a whole company',
      steps: [
        'Give your IT the two addresses below: they always answer with today’s signature of this person.',
        'A script fetches the HTML into each mailbox, and the text for programs that want text.',
      ],
    },
  },
  addresses: 'Addresses for your IT',
};
