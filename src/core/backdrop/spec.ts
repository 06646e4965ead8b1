import { z } from 'zod';
import { PictureSchema } from '@/core/record';

/** Pixels of a backdrop: a whole picture of ITU-R BT.709. */
export const BACKDROP = { width: 1920, height: 1080 } as const;
/** What is left of it where a call has little room on the wire, and how well it is kept there, of a hundred (common practice, no published source). */
export const CALL = { width: 640, height: 360, quality: 30 } as const;
/** The smallest type, in pixels: 9 of them are left in such a call. */
export const LEAST_TYPE = 27;
/** Room to every edge: calls cut a little off (common practice, no published source). */
export const MARGIN = 72;

/** Widths of the code, margin in, in pixels. */
export const CODE_SIZES = { small: 264, medium: 330, large: 408 } as const;
export type CodeSize = keyof typeof CODE_SIZES;
export const CODE_SIZE_NAMES = Object.keys(CODE_SIZES) as [CodeSize, ...CodeSize[]];

/** Where whoever is in the call sits: head and shoulders in the middle, from near the top to the foot (common practice, no published source). */
export const SITTER = { x: 620, y: 120, width: 680, height: 960 } as const;

/** How a backdrop is made up. */
export const BackdropSchema = z.object({
  /** The top corner that the code stands in, as others see it; the words stand in the other one. */
  corner: z.enum(['left', 'right']),
  code: z.enum(CODE_SIZE_NAMES),
  /** An own photo of the organisation behind everything; null for the look of the card. */
  picture: PictureSchema.nullable(),
});
export type Backdrop = z.infer<typeof BackdropSchema>;

export const FIRST_BACKDROP: Backdrop = { corner: 'right', code: 'medium', picture: null };
