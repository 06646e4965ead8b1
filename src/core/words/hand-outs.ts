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
  },
  tagBytes: 'Bytes for the tag',
  frozenNote:
    'A frozen one carries a copy of what was published. When the card changes, it does not; a live one shows the card of the day.',
  frozen: 'Frozen: a copy of what was published when it was made',
  showCode: 'Show code',
  further: 'Add a hand-out to track separately',
  placementHint: 'Where it will be, as in “stand banner”',
  make: 'Make it',

  codeOf: (code: string) => `QR code ${code}`,
  readBy: (read: number, of: number) => `An independent reader read ${read} of ${of} test images.`,
  doNotPrint: 'Do not print it.',
  holds: 'Holds',
  kind: 'Kind',
  live: 'Live: shows the card of the day, also after printing',
  symbol: 'Symbol',
  symbolIs: (version: number, modules: number, level: string) =>
    `version ${version}, ${modules} modules, level ${level}`,
  printed: 'Printed',
  printedAs: (widthMm: number, moduleMm: number) =>
    `${widthMm} mm wide, ${moduleMm.toFixed(2)} mm a module, quiet zone included`,
  downloadPng: 'Download PNG',
  downloadSvg: 'Download SVG',
};
