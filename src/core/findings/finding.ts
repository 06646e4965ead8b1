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
  /** Ticked lines that stand on paper, as the printed file says them. */
  | { code: 'ON_PAPER'; read: number; of: number; missing: (string | null)[] }
  /** Words of a printed file that are searched for in it and found. */
  | { code: 'PRINTED_WORDS'; read: number; of: number; missing: (string | null)[] }
  /** Lines that had no room, and whether words were cut short. */
  | { code: 'HAD_ROOM'; left: string[]; cut: boolean }
  /** Readers that read a printed code from as far as it is meant for, whether it stands where it was put, and its sizes in millimetres. */
  | {
      code: 'PRINTED_CODE';
      readers: number;
      of: number;
      placed: boolean;
      widthMm: number;
      moduleMm: number;
      leastMm: number;
    }
  /** The smallest type in points, and below which it is small and too small. */
  | { code: 'TYPE'; points: number; small: number; least: number }
  | { code: 'FONTS'; embedded: number; of: number }
  /** The coarsest picture in pixels an inch; 0 where there is none. */
  | { code: 'RESOLUTION'; dpi: number; least: number }
  /** How near words come to the cut, and how near they may, in millimetres. */
  | { code: 'SAFE'; nearestMm: number; safeMm: number }
  /** The trimmed size that the file says, in millimetres, its bleed, and those that were wanted. */
  | { code: 'TRIM'; width: number; height: number; bleedMm: number; right: boolean }
  /** Letters that no typeface of ours has. */
  | { code: 'LETTERS'; missing: string[] }
  /** Copies on a sheet that stand where they are cut; none where the paper has no room for one. */
  | { code: 'SHEET'; found: number; of: number }
  /** The code of a backdrop as a call leaves it: its readers, whether it stands where it was put, pixels a module has left. */
  | { code: 'CALL_CODE'; readers: number; of: number; placed: boolean; pixels: number }
  /** Whether the middle of a backdrop is free for whoever sits there. */
  | { code: 'SITTER'; free: boolean }
  /** The smallest type of a backdrop, in pixels that a call leaves of it. */
  | { code: 'CALL_TYPE'; pixels: number; least: number }
  /** The measures of a sheet of labels that do not add up. */
  | { code: 'LABELS'; fault: 'overlap' | 'beyond' }
  /** Spot colours that a printed file has plates for, and those of the house that stand on it without one. */
  | { code: 'SPOTS'; found: string[]; missing: string[] }
  /** What somebody's own design is made for and the size that was chosen, in millimetres. */
  | { code: 'ARTWORK_SIZE'; width: number; height: number; wantedWidth: number; wantedHeight: number; right: boolean }
  /** The bleed of a design in millimetres; without it white edges are no fault. */
  | { code: 'ARTWORK_BLEED'; bleedMm: number; least: number; white: boolean }
  /** Ticked lines that stand on a design, by its own words or placed on it; not `known` where it has no words to read. Numbers and addresses on it that are not ticked. */
  | { code: 'ARTWORK_LINES'; known: boolean; read: number; of: number; missing: string[]; foreign: string[] }
  /** The ground around a code: whether it is even, and its contrast with the code. */
  | { code: 'QUIET_ZONE'; even: boolean; contrast: number; least: number }
  /** Letters of a design that what was placed on it covers. */
  | { code: 'COVERED'; letters: number }
  /** How near a placed code comes to the cut, and how near it may, in millimetres. */
  | { code: 'CODE_WITHIN'; nearestMm: number; safeMm: number }
  /** The smallest type of a design itself in points, and how near its words come to the cut, in millimetres. */
  | { code: 'ARTWORK_TYPE'; points: number; small: number }
  | { code: 'ARTWORK_NEAR'; nearestMm: number; safeMm: number }
  /** What a design brought along and was left out. */
  | { code: 'ARTWORK_CLEANED'; removed: string[] }
  /** The files of a pass: names of those that are not what was signed, or missing. */
  | { code: 'PASS_FILES'; files: number; wrong: string[] }
  /** The signature of a pass: whether it fits, is by a certificate for this kind of pass, and holds today; the certificate's last day. */
  | { code: 'PASS_SIGNED'; fits: boolean; known: boolean; holds: boolean; until: string }
  /** Whether the code of a pass holds the living link; none while the card is not out. */
  | { code: 'PASS_CODE'; right: boolean; voided: boolean }
  /** Whether every text has room on a backdrop. */
  | { code: 'CALL_ROOM'; cut: boolean }
  /** Written down as a sentence, before findings had codes. */
  | { code: 'WORDED'; sentence: string };

/** A family of address books that treats something in a contact file in its own way. */
export type Caution =
  | { family: 'phones'; code: 'LONG_NOTE' }
  | { family: 'office'; code: 'NO_LABELS' | 'TWO_ADDRESSES' | 'NO_VERSION_4' }
  | { family: 'old'; code: 'LETTERS' | 'PHOTO_LARGE' };
