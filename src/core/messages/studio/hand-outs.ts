/** Hand-outs and the code of one. */
export const HAND_OUTS = {
  page: 'Hand-outs',
  noneTitle: 'Hand-outs come with the first revision',
  noneText:
    'Publish the card, and its short address, its contact file and a code of its own stand here, each with its placement and what came of it.',
  column: { placement: 'Placement', leadsTo: 'Leads to', kind: 'Kind', views: 'Views, 90 days', saves: 'Saves' },
  shortAddress: 'Short address',
  liveLink: 'live link',
  liveCode: 'live code',
  showCode: 'Show code',
  further: 'A further code, so that its response can be told apart',
  placementHint: 'Where it will stand, as in “stand banner”',
  make: 'Make a code',

  codeOf: (code: string) => `QR code ${code}`,
  readBy: (read: number, of: number) => `${read} of ${of} pictures of this code were read by another program’s reader.`,
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
