import { z } from 'zod';
import { LanguageSchema } from '@/core/language/schema';
import { LIMITS } from '@/core/limits';
import { PictureSchema } from '@/core/record';
import { SignatureOptionsSchema } from './options';

/** Empty while somebody types it. */
const Day = z.union([z.literal(''), z.iso.date()]);

/**
 * A notice below everybody's new messages for a while: a picture with its text, or a line, and where it leads. From the first to the last local day
 * (ISO 8601), both included.
 */
const StripSchema = z.object({
  id: z.string().regex(/^[a-z0-9-]{1,40}$/),
  text: z.string().max(LIMITS.label),
  link: z.string().max(LIMITS.link),
  picture: PictureSchema.nullable(),
  starts: Day,
  ends: Day,
});
export type Strip = z.infer<typeof StripSchema>;

/** Whether a strip leads nowhere, or to a page of the web. */
export const leadsWell = ({ link }: Pick<Strip, 'link'>): boolean => /^(https?:\/\/\S+)?$/i.test(link);

/** What stands against a strip: a word or a day is missing, it would end before it begins, or it leads to no page; null where it can show. */
export const faultOfStrip = (strip: Strip): 'unfinished' | 'backwards' | 'link' | null => {
  if (!strip.text.trim() || !strip.starts || !strip.ends) return 'unfinished';
  if (strip.ends < strip.starts) return 'backwards';
  return leadsWell(strip) ? null : 'link';
};

/** Texts by language; that under `any` is for every other one. */
const TextsSchema = z.partialRecord(z.union([z.literal('any'), LanguageSchema]), z.string().max(LIMITS.text));
export type Texts = z.infer<typeof TextsSchema>;

/** What an organisation says of its people's signatures: how they are laid out at first, or always where that is locked, and what stands below each. */
export const HouseSignatureSchema = z.object({
  options: SignatureOptionsSchema,
  legal: TextsSchema.default({}),
  disclaimer: TextsSchema.default({}),
  strips: z
    .array(StripSchema)
    .max(LIMITS.strips)
    .refine((strips) => new Set(strips.map(({ id }) => id)).size === strips.length)
    .default([]),
});
export type HouseSignature = z.infer<typeof HouseSignatureSchema>;

/** A text in a language, else that for any other one. */
export const textIn = (texts: Texts, language: string): string =>
  (texts[language] ?? texts[language.split('-')[0]!] ?? texts.any ?? '').trim();

/** What stands below a signature in a language: the legal line, then the disclaimer. */
export const belowIn = (house: HouseSignature | undefined, language: string): string[] =>
  house ? [textIn(house.legal, language), textIn(house.disclaimer, language)].filter(Boolean) : [];

/** The strip that shows: of those that have begun and not ended the one that began last. */
export const stripAt = <S extends { from: number; until: number }>(strips: readonly S[], now: number): S | null =>
  strips.reduce<S | null>(
    (shown, each) => (each.from <= now && now < each.until && (!shown || each.from >= shown.from) ? each : shown),
    null,
  );
