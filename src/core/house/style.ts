import type { Block } from '@/core/card';
import { PLAIN_STYLE, type CodeStyle, type FinderShape, type ModuleShape } from '@/core/qr';
import type { Picture } from '@/core/record';
import {
  contrast,
  FIRST_LOOK,
  LAYOUT_NAMES,
  LOOK_PARTS,
  luminance,
  type Ink,
  type LayoutName,
  type Look,
} from '@/core/look';
import type { Detail } from '@/core/record';
import type { HouseSignature } from '@/core/signature';
import type { Owned } from './owned-kinds';

/** Modules of a code against their ground: 4 to 1 leaves room for poor light (common practice, no published source). */
export const CODE_RATIO = 4;
/** Dark on light, since few readers take a code the other way round. */
export const codeReads = (ink: string, ground: string): boolean =>
  contrast(ink, ground) >= CODE_RATIO && luminance(ink) < luminance(ground);

/** What a house style may keep holders from changing: parts of the look, and what it adds to every card. */
export const LOCKABLE = [...LOOK_PARTS, 'logo', 'lines', 'blocks', 'codes', 'signature', 'ticks', 'order'] as const;
export type Lockable = (typeof LOCKABLE)[number];

/** Ids of what a house style adds begin so, and no card's own do. */
export const HOUSE_ID = 'house-';

/** A fixed line: the firm, its address, a disclaimer, a link. It goes out on the page, with the contact file, or both. */
export type HouseLine = { id: string; label: string; detail: Detail; page: boolean; file: boolean };

/**
 * An organisation's house style. `look` is what cards take that follow it; `layouts` are those that a card may have; `logos`
 * stand for the record's own, one for light grounds and one for dark; `lines` and `blocks` are added to every card. A lock carries
 * its reason, which is shown to whoever meets it: a card may leave out lines and blocks that are not locked, and keep its own logo.
 */
export type HouseStyle = {
  look: Look;
  layouts: LayoutName[];
  logos: { onLight: Picture | null; onDark: Picture | null };
  lines: HouseLine[];
  blocks: Block[];
  codes: HouseCodes;
  /** How mail signatures are laid out, and what stands below them; absent where nothing is said. */
  signature?: HouseSignature | undefined;
  /** What its colours are printed with; absent where nothing is said. */
  inks?: Ink[] | undefined;
  locks: Partial<Record<Lockable, string>>;
  /** What of records and cards belongs to the organisation; absent where all of it is the holders'. */
  owned?: Owned | undefined;
};

/**
 * What the organisation's codes look like: colours of modules and their ground, shapes as a code's own style has them, and the share of a code's area, in per
 * cent, that the house's logo for light grounds takes in its middle.
 */
export type HouseCodes = {
  ink: string;
  ground: string;
  modules?: ModuleShape;
  fill?: number;
  finderShape?: FinderShape;
  logo?: number;
};

/** A code in the house's style, its logo left out: whoever draws it fetches that. */
export const houseCodeStyle = ({ logo: _, ...codes }: HouseCodes): CodeStyle => ({ ...PLAIN_STYLE, ...codes });

/** The logo that the house's codes carry, by its file and the share of the area, in per cent; null where they carry none. */
export function houseCodeLogo({ codes, logos }: HouseStyle): { hash: string; percent: number } | null {
  return codes.logo && logos.onLight ? { hash: logos.onLight.hash, percent: codes.logo } : null;
}

/** Kinds of block that an organisation can add to every card. */
export const HOUSE_BLOCKS = ['about', 'gallery', 'onward links', 'products'] as const;

export const NO_HOUSE: HouseStyle = {
  look: FIRST_LOOK,
  layouts: [...LAYOUT_NAMES],
  logos: { onLight: null, onDark: null },
  lines: [],
  blocks: [],
  codes: { ink: '#000000', ground: '#FFFFFF' },
  locks: {},
};
