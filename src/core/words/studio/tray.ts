/** The mail tray, which keeps mail where no server sends it on. */
export const TRAY = {
  title: 'Mail tray',
  note: 'This installation sends no mail on: what you caused, and what is about your account, lies here instead.',
  none: 'Nothing yet. Change your address or your password under “Your sign-in”, and a mail arrives here.',
  again: 'Look again',
  to: 'To',
  list: 'Mails',
  views: { html: 'Formatted', text: 'As text', headers: 'Headers' },
  view: 'View',
  frame: 'The mail as it is formatted',
  attached: 'Attached',
  bytes: (count: number) => `${count.toLocaleString('en-GB')} bytes`,
};
