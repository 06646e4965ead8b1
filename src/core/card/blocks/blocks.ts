import { z } from 'zod';
import type { Look } from '@/core/look';
import { LIMITS } from '@/core/limits';
import { LanguageSchema } from '@/core/language/schema';
import { ACTS_OF_BAR, REPLY_EXTRAS } from './block-kinds';
import { HashSchema, PictureSchema } from '@/core/record';

const Id = z.string().min(1).max(40);
const Text = z.string().max(LIMITS.blockText);
const Short = z.string().max(LIMITS.label);

/** A link as it stands on the page: https or http, or nothing. A player's link must be https (see {@link VideoSchema}). */
const Url = z
  .string()
  .max(LIMITS.link)
  .refine((url) => url === '' || isWeb(url));
const isWeb = (url: string): boolean => URL.canParse(url) && /^https?:$/.test(new URL(url).protocol);

const ItemSchema = z.object({
  id: Id,
  picture: PictureSchema.nullable().default(null),
  /** What the picture shows; empty where it only adorns the title beside it. */
  alt: Short.default(''),
  title: Short.default(''),
  text: Text.default(''),
  url: Url.default(''),
});
export type Item = z.infer<typeof ItemSchema>;

const VideoSchema = z.object({
  id: Id,
  title: Short.default(''),
  /** An own film in the file store. Seconds and pixels as the file itself tells them. */
  film: z
    .object({
      hash: HashSchema,
      type: z.enum(['video/mp4', 'video/webm']),
      width: z.number().int().min(1).max(10_000),
      height: z.number().int().min(1).max(10_000),
      seconds: z.number().min(0).max(100_000),
      bytes: z.number().int().min(1),
    })
    .nullable()
    .default(null),
  /** A player elsewhere, over https; asked for only when the recipient does. */
  player: z
    .string()
    .max(LIMITS.link)
    .refine((url) => url === '' || (isWeb(url) && url.startsWith('https:')))
    .default(''),
  poster: PictureSchema.nullable().default(null),
  captions: z.object({ hash: HashSchema, language: LanguageSchema }).nullable().default(null),
});
export type Video = z.infer<typeof VideoSchema>;

const BarSchema = z.object({
  id: Id,
  act: z.enum(ACTS_OF_BAR),
  /** The line that it calls, writes to or opens; null where the first fitting one is meant, and for saving. */
  line: Id.nullable().default(null),
  /** The block that it jumps to. */
  block: Id.optional(),
  subject: Short.default(''),
  text: Text.default(''),
});
export type BarButton = z.infer<typeof BarSchema>;

const common = { id: Id, on: z.boolean().default(true), before: z.boolean().default(false), title: Short.default('') };
const items = <K extends string>(kind: K) =>
  z.object({ kind: z.literal(kind), ...common, items: z.array(ItemSchema).max(LIMITS.items).default([]) });

/**
 * A part of the page. `title` is its heading in own words, empty for ours; `on` switches it,
 * `before` puts it before the lines.
 */
export const BlockSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('action bar'),
    ...common,
    buttons: z
      .array(BarSchema)
      .max(LIMITS.buttons)
      // Saving is what a card is for: its button may be moved, not taken away.
      .refine((buttons) => buttons.filter(({ act }) => act === 'save').length === 1),
  }),
  z.object({ kind: z.literal('about'), ...common, text: Text.default('') }),
  items('gallery'),
  z.object({ kind: z.literal('video'), ...common, videos: z.array(VideoSchema).max(LIMITS.videos).default([]) }),
  items('onward links'),
  z.object({ kind: z.literal('hours'), ...common }),
  items('credentials'),
  items('products'),
  z.object({ kind: z.literal('offices'), ...common }),
  z.object({
    kind: z.literal('reply form'),
    ...common,
    fields: z
      .array(z.enum(REPLY_EXTRAS))
      .max(3)
      .refine((fields) => new Set(fields).size === fields.length)
      .default([]),
    /** The one own question, asked where `answer` is among the fields. */
    question: Short.default(''),
  }),
]);
export type Block = z.infer<typeof BlockSchema>;

export const BlocksSchema = z
  .array(BlockSchema)
  .max(LIMITS.blocks)
  .refine((blocks) => new Set(blocks.map(({ id }) => id)).size === blocks.length)
  .refine((blocks) =>
    (['action bar', 'reply form'] as const).every((one) => blocks.filter(({ kind }) => kind === one).length <= 1),
  );

/** What a recipient gets first: the page, a picture of the card, one of its blocks, or the contact file itself. */
export const OpensSchema = z.discriminatedUnion('first', [
  z.object({ first: z.literal('page') }),
  /** Own artwork with its text; without one the picture is drawn by the card's look. */
  z.object({ first: z.literal('picture'), picture: PictureSchema.nullable().default(null), alt: Text.default('') }),
  z.object({ first: z.literal('block'), block: Id }),
  z.object({ first: z.literal('file') }),
]);
export type Opens = z.infer<typeof OpensSchema>;

/** Own words in further languages, by the place that they stand in: see {@link ../card/languages}. */
export const WordsSchema = z
  .record(LanguageSchema, z.record(z.string().min(1).max(130), z.string().max(LIMITS.note)))
  .refine((words) => Object.keys(words).length <= LIMITS.languages);
export type Words = z.infer<typeof WordsSchema>;

/** What a card has besides its lines: blocks in their order, what opens first, its words in further languages, and its look. */
export type PageParts = { blocks: Block[]; opens: Opens; words: Words; look: Look };
