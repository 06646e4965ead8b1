/** Sending a card to somebody by mail. */
export const MESSAGE = {
  open: 'Send the card',
  title: 'Send this card to somebody',
  name: 'Their name',
  email: 'Their e-mail',
  note: 'Your words above it',
  where: 'Where or how you met, for your figures',
  whereFirst: 'Message',
  template: 'Words to begin with',
  /** Filled by what is known: see fillTemplate. */
  templates: {
    met: {
      name: 'After we met',
      body: 'Hello[ {name}],\n\nit was good to meet you[ at {occasion}][ in {place}]. Here is my card; the attached file puts me into your address book.\n\n{me}',
    },
    promised: {
      name: 'As promised',
      body: 'Hello[ {name}],\n\nas promised[ at {occasion}], here is how to reach me. The link always shows what is right today.\n\n{me}',
    },
    short: { name: 'In one line', body: 'My card, as we said[ at {occasion}].' },
  },
  ownTemplates: 'Your own',
  keepAs: 'Keep these words as',
  keepName: 'Name of the template',
  keepAct: 'Keep',
  keepHint:
    '{name}, {occasion}, {place}, {placement} and {me} are filled in; what stands in [square brackets] goes where it would be empty.',
  kept: 'Kept.',
  dropTemplate: 'Remove this template',
  carries:
    'The mail carries what is ticked for the contact file, as text and as the file itself. Answers go to your own address.',
  send: 'Send',
  draft: 'Draft (.eml)',
  sent: (email: string) => `On its way to ${email}.`,
  unconfirmed:
    'Confirm your own address first, under “Your sign-in”: mail to others leaves in your name. The draft works meanwhile.',
  closed: 'This installation sends no mail: take the draft, and send it with your own mail program.',
};
