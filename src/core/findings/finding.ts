/**
 * What a check of a proof found, as a code with its data: it may be stored, and is worded by {@link sayFinding} when it is shown.
 * Sizes in bytes, contrast as the ratio of WCAG 2.2.
 */
export type Finding =
  | { code: 'UNREADABLE' }
  /** Ticked lines that were found; `missing` are the labels, or the values of those without one, null of the name. */
  | { code: 'LINES_READ'; read: number; of: number; missing: (string | null)[] }
  /** Unticked values that are still there. */
  | { code: 'UNTICKED'; still: number; of: number }
  /** Properties that no line asks for, by name. */
  | { code: 'NOTHING_ELSE'; more: string[] }
  | { code: 'PHOTO_TELLS'; tells: boolean }
  | { code: 'SIZE'; bytes: number; photo: number }
  | { code: 'OUR_READER' }
  /** Lines that stand in the note, and those that stand nowhere, since the version has no property for them. */
  | { code: 'IN_THE_NOTE'; lines: string[] }
  | { code: 'NOWHERE'; lines: string[] }
  | { code: 'CODE_READ'; read: number; of: number }
  /** Records of a tag that were read as they were written; 0 where it reads otherwise. */
  | { code: 'TAG_READ'; records: number }
  | { code: 'LINK_FIRST'; first: boolean }
  | { code: 'FITS'; bytes: number; room: number }
  | { code: 'BLOCKS_READ'; read: number; of: number }
  /** Pairs of colours that read; the weakest one's ratio, and the one that it needs. */
  | { code: 'CONTRAST'; read: number; of: number; worst: number; needs: number }
  | { code: 'PICTURES'; ticked: number; unticked: number; missing: number }
  | { code: 'OTHER_HOSTS'; times: number }
  /** Ticked lines of a signature that stand in words, with pictures blocked and as plain text. */
  | { code: 'WITHOUT_PICTURES'; read: number; of: number; missing: (string | null)[] }
  | { code: 'AS_TEXT'; read: number; of: number; missing: (string | null)[] }
  /** What a word processor's engine does not draw as it is meant, and pictures without size or text. */
  | { code: 'ENGINE'; strange: string[]; bare: number }
  /** Written down as a sentence, before findings had codes. */
  | { code: 'WORDED'; sentence: string };

/** A family of address books that treats something in a contact file in its own way. */
export type Caution =
  | { family: 'phones'; code: 'LONG_NOTE' }
  | { family: 'office'; code: 'NO_LABELS' | 'TWO_ADDRESSES' | 'NO_VERSION_4' }
  | { family: 'old'; code: 'LETTERS' | 'PHOTO_LARGE' };
