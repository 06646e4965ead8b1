import { z } from 'zod';

/** How a signature is laid out: the picture beside the words, or everything below each other. */
export const SIGNATURE_LAYOUTS = ['beside', 'below'] as const;
export type SignatureLayout = (typeof SIGNATURE_LAYOUTS)[number];

/** A message of one's own, and an answer within a thread, which repeats less. */
export const VARIANTS = ['message', 'reply'] as const;
export type Variant = (typeof VARIANTS)[number];

const PartsSchema = z.object({ picture: z.boolean(), link: z.boolean(), contact: z.boolean() });

/**
 * What somebody chose for the signature of a card. Pictures are `linked`, or `inside` the mail as parts of it (RFC 2392); the contact file is attached to
 * every mail only where that is wanted.
 */
export const SignatureOptionsSchema = z.object({
  layout: z.enum(SIGNATURE_LAYOUTS),
  pictures: z.enum(['linked', 'inside']),
  message: PartsSchema,
  reply: PartsSchema,
});
export type SignatureOptions = z.infer<typeof SignatureOptionsSchema>;
export type SignatureParts = z.infer<typeof PartsSchema>;

/** The contact is not attached at first: many programs show each attachment as something to open, and filters look at it (common practice). */
export const FIRST_SIGNATURE: SignatureOptions = {
  layout: 'beside',
  pictures: 'linked',
  message: { picture: true, link: true, contact: false },
  reply: { picture: false, link: true, contact: false },
};
