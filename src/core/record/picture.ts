import { z } from 'zod';

/** SHA-256 of a file in the store, in hexadecimal. */
export const HashSchema = z.string().regex(/^[0-9a-f]{64}$/);

/** A picture of the organisation: its hash, and its size in pixels. */
export const PictureSchema = z.object({
  hash: HashSchema,
  width: z.number().int().min(1).max(100_000),
  height: z.number().int().min(1).max(100_000),
});
export type Picture = z.infer<typeof PictureSchema>;
