/** Hand-outs and the code of one. */
export const HAND_OUTS = {
  page: 'Hand-outs',
  noneTitle: 'Hand-outs come once the card is published',
  noneText:
    'Publish the card, and its short address, its contact file and a code of its own appear here, each with its placement and its figures.',
  column: { placement: 'Placement', leadsTo: 'Leads to', kind: 'Kind', views: 'Views, 90 days', saves: 'Saves' },
  shortAddress: 'Short address',
  liveLink: 'live link',
  kinds: {
    'live code': 'live code',
    'frozen code': 'frozen code',
    'live tag': 'live tag',
    'frozen tag': 'frozen tag',
    'live signature': 'mail signature',
    'frozen signature': 'mail signature',
  },
  tagBytes: 'Bytes for the tag',
  frozenNote:
    'A frozen one carries a copy of what was published. When the card changes, it does not; a live one shows the card of the day.',
  showCode: 'Show code',
  showSignature: 'Open signature',
  signature: 'Mail signature',
  further: 'Add a tag to track separately',
  placementHint: 'Where it will be, as in “stand banner”',
  make: 'Make it',

  codeOf: (code: string) => `QR code ${code}`,
  code: 'Code',
  openCode: 'Style, proof and files',
  newCode: 'New code',
  proof: 'Proof',
  proven: (read: number, of: number) => `${read} of ${of}`,
  notProven: 'not tried yet',
  downloadSvg: 'Download SVG',
};
