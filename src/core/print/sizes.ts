import { LEAST_PRINT } from '@/core/face';

/** What is printed. A card has two sides and lines; the others are one side with a code. */
export const STOCKS = ['card', 'badge', 'label', 'sign', 'sticker'] as const;
export type Stock = (typeof STOCKS)[number];

/** A trimmed size in millimetres, lying, and where it comes from. */
export type PrintSize = { stock: Stock; width: number; height: number; round?: true; source: string };

const COMMON = 'common practice, no published source';

export const PRINT_SIZES = {
  '85x55': { stock: 'card', width: 85, height: 55, source: COMMON },
  '3.5x2in': { stock: 'card', width: 88.9, height: 50.8, source: COMMON },
  '91x55': { stock: 'card', width: 91, height: 55, source: COMMON },
  '90x50': { stock: 'card', width: 90, height: 50, source: COMMON },
  square: { stock: 'card', width: 65, height: 65, source: COMMON },
  'card-own': { stock: 'card', width: 85, height: 55, source: 'by its measures' },
  badge: { stock: 'badge', width: 85.6, height: 53.98, source: 'ISO/IEC 7810, ID-1' },
  'badge-a6': { stock: 'badge', width: 148, height: 105, source: 'ISO 216, A6' },
  'label-70x37': { stock: 'label', width: 70, height: 37, source: COMMON },
  'label-own': { stock: 'label', width: 70, height: 37, source: 'by its measures' },
  'label-63x38': { stock: 'label', width: 63.5, height: 38.1, source: COMMON },
  a6: { stock: 'sign', width: 148, height: 105, source: 'ISO 216, A6' },
  a5: { stock: 'sign', width: 210, height: 148, source: 'ISO 216, A5' },
  a4: { stock: 'sign', width: 297, height: 210, source: 'ISO 216, A4' },
  a3: { stock: 'sign', width: 420, height: 297, source: 'ISO 216, A3' },
  'sticker-round': { stock: 'sticker', width: 45, height: 45, round: true, source: COMMON },
  'sticker-square': { stock: 'sticker', width: 40, height: 40, source: COMMON },
} as const satisfies Record<string, PrintSize>;
export type SizeName = keyof typeof PRINT_SIZES;
export const SIZE_NAMES = Object.keys(PRINT_SIZES) as [SizeName, ...SizeName[]];

export const sizeOf = (name: SizeName): PrintSize => PRINT_SIZES[name];
/** Sizes whose measures are typed. */
export const isOwnSize = (name: SizeName): boolean => name === 'card-own' || name === 'label-own';

/** Colour that is printed beyond the trim, since no cut is exact; and what is kept free of words within it. Millimetres (common practice, no published source). */
export const BLEED_MM = 3;
export const SAFE_MM = 4;
export const POINTS_PER_MM = 72 / 25.4;
/** Type below the first is warned about, below the second refused, in points (common practice, no published source). */
export const SMALL_TYPE = { warn: 6, refuse: 4.5 } as const;
/** Pixels an inch below which a printed picture is warned about (common practice, no published source). */
export const LEAST_DPI = 200;

/** Labels are small and read from near: their type may be as small as the check lets pass without a word. */
const LEAST_LABEL = SMALL_TYPE.warn / POINTS_PER_MM;

/** Room around words on a size, and the smallest type on it, in millimetres. */
export function roomsOf(name: SizeName): { margin: number; leastType: number } {
  const { stock, width, height } = sizeOf(name);
  const shorter = Math.min(width, height);
  const margin = stock === 'label' || stock === 'sticker' ? 3 : Math.max(SAFE_MM, shorter * 0.06);
  return { margin, leastType: stock === 'label' ? LEAST_LABEL : Math.max(LEAST_PRINT, shorter * 0.012) };
}
