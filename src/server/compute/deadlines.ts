/**
 * Everything whose cost grows with what somebody typed or sent, by its kind, and the milliseconds on a processor that one output of it may
 * take: about ten times what the largest usual input needs on one core.
 */
export const DEADLINES = {
  face: 6_000,
  icon: 3_000,
  previews: 3_000,
  letters: 3_000,
  lighter: 8_000,
  photo: 12_000,
  'roster photo': 12_000,
  crop: 12_000,
  logo: 12_000,
  'block picture': 12_000,
  'mail picture': 6_000,
  colours: 3_000,
  film: 12_000,
  captions: 3_000,
  'single contact': 4_000,
  contacts: 20_000,
  'sheet columns': 15_000,
  'sheet rows': 15_000,
  workbook: 12_000,
  proof: 8_000,
  'code words': 3_000,
  'code file': 12_000,
  'code read back': 6_000,
  mark: 8_000,
  // A code of a thousand bytes and a remedy that is looked for: ten proofs.
  'code proof': 40_000,
  design: 60_000,
  // A document of 20 MB is taken apart and put together again.
  artwork: 10_000,
  // Three files of sixty pages are painted and read in as long.
  'printed piece': 20_000,
  'printed side': 20_000,
  backdrop: 8_000,
  pass: 8_000,
  'pass authority': 20_000,
  // Up to forty pieces are painted and read; five hundred files are joined.
  'bound pieces': 40_000,
  'joined files': 40_000,
  signature: 4_000,
  password: 4_000,
} as const;

export type Kind = keyof typeof DEADLINES;
