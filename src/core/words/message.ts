/** Sending a card to somebody by mail. */
export const MESSAGE = {
  open: 'Send the card',
  title: 'Send this card to somebody',
  name: 'Their name',
  email: 'Their e-mail',
  note: 'Your words above it',
  first: (name: string, occasion: string) =>
    `${name ? `Hello ${name},` : 'Hello,'}\n\nit was good to meet you${occasion ? ` at ${occasion}` : ''}. Here is my card; the attached file puts me into your address book.`,
  carries:
    'The mail carries what is ticked for the contact file, as text and as the file itself. Answers go to your own address.',
  send: 'Send',
  draft: 'Draft (.eml)',
  sent: (email: string) => `On its way to ${email}.`,
  unconfirmed:
    'Confirm your own address first, under “Your sign-in”: mail to others leaves in your name. The draft works meanwhile.',
  closed: 'This installation sends no mail: take the draft, and send it with your own mail program.',
};
