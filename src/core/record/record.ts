import { z } from 'zod';
import { LIMITS } from '@/core/limits';
import { LanguageSchema } from '@/core/language/schema';
import { isZone, TIME } from './hours';
import { hasOpenScheme } from './link';
import { BIRTHDAY, PURPOSES, TEXT_KINDS, USES } from './kinds';
import { cleanLine, cleanText } from './text';

const line = (limit: number) =>
  z
    .string()
    .transform((raw) => cleanLine(raw).text)
    .pipe(z.string().max(limit));
const lines = (limit: number) =>
  z
    .string()
    .transform((raw) => cleanText(raw).text)
    .pipe(z.string().max(limit));
const text = line(LIMITS.text);
/** The same value in further languages, as it is written there: a name in another script, a title in other words. */
const further = z
  .record(LanguageSchema, lines(LIMITS.note))
  .refine((said) => Object.keys(said).length <= LIMITS.languages)
  .optional();
const id = z.string().regex(/^[a-z0-9-]{1,40}$/i);

/** What a record can stand for besides a person: a desk, a duty line or a department; a team; a place (KIND, RFC 6350 6.1.4). */
export const NAME_KINDS = ['org', 'group', 'location'] as const;
export type NameKind = (typeof NAME_KINDS)[number];

/**
 * A name in the five parts of vCard's N property (RFC 6350 6.2.2) and, if given, as it is written (FN, 6.2.1) and as it is
 * sorted (SORT-AS, 5.9). How it is said is a detail, so that it is ticked like any other.
 * What is no person says its `kind`, and has a written form alone.
 */
export const NameSchema = z.object({
  prefix: text.default(''),
  given: text.default(''),
  additional: text.default(''),
  family: text.default(''),
  suffix: text.default(''),
  written: text.default(''),
  sortAs: text.optional(),
  kind: z.enum(NAME_KINDS).optional(),
  further,
});
export type Name = z.infer<typeof NameSchema>;

const uses = z.array(z.enum(USES)).default([]);

const common = { id, label: text.default(''), preferred: z.boolean().default(false), further };

/** An address that may stand behind a link: nothing that could run on a recipient's phone, whoever sent it. */
const address = z
  .string()
  .max(LIMITS.link * 3)
  .refine(hasOpenScheme);
const picture = z.string().regex(/^[0-9a-f]{64}$/);
const share = z.number().min(0).max(1);
/**
 * How a photo was cut from the picture `from`: the square's centre and side as shares of the straightened picture's width,
 * height and shorter side, `turn` in degrees clockwise, and the point that stays in sight whatever shape a layout gives it.
 */
export const CropSchema = z.object({
  from: picture,
  // Of a turned picture that is long and narrow the square may lie beside where its middle was.
  x: z.number().min(-10).max(11),
  y: z.number().min(-10).max(11),
  side: z.number().min(0.05).max(1),
  turn: z.number().min(-45).max(45),
  focus: z.object({ x: share, y: share }),
});
export type Crop = z.infer<typeof CropSchema>;

const time = z.string().regex(TIME);
/** A weekly table of hours, as `hours.ts` reads and shows it. */
const HoursSchema = z.object({
  days: z.array(z.array(z.object({ from: time, until: time })).max(6)).length(7),
  zone: z.string().max(60).refine(isZone),
});

/** One typed value of a record. A number of a phone is E.164 where it has that form. */
export const DetailSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('phone'),
    ...common,
    number: z.string().regex(/^\+?[\d*#]{3,17}$/),
    extension: z
      .string()
      .regex(/^\d{1,11}$/)
      .optional(),
    uses,
  }),
  z.object({
    kind: z.literal('email'),
    ...common,
    address: z
      .string()
      .max(LIMITS.email)
      .regex(/^[^\s@]+@[^\s@]+$/),
    uses,
  }),
  /** `purpose` is what the link is for; without one it is told from its address. */
  z.object({
    kind: z.literal('link'),
    ...common,
    url: address,
    purpose: z.enum(PURPOSES).optional(),
    uses,
  }),
  z.object({
    kind: z.literal('address'),
    ...common,
    uses,
    poBox: text.default(''),
    extended: text.default(''),
    street: lines(LIMITS.text).default(''),
    locality: text.default(''),
    region: text.default(''),
    postcode: text.default(''),
    country: text.default(''),
    /** Where it is: latitude and longitude in degrees (RFC 5870). */
    geo: z
      .string()
      .regex(/^-?\d{1,3}(\.\d+)?,-?\d{1,3}(\.\d+)?$/)
      .max(60)
      .optional(),
    /** A map of the way there, if its holder gave one. */
    map: address.optional(),
  }),
  z.object({ kind: z.literal('organisation'), ...common, name: text, units: z.array(text).max(10).default([]) }),
  ...TEXT_KINDS.map((kind) => z.object({ kind: z.literal(kind), ...common, text })),
  z.object({ kind: z.literal('note'), ...common, text: lines(LIMITS.note) }),
  z.object({ kind: z.literal('birthday'), ...common, date: z.string().regex(BIRTHDAY) }),
  z.object({ kind: z.literal('hours'), ...common, ...HoursSchema.shape }),
  z.object({ kind: z.literal('photo'), ...common, picture, crop: CropSchema.optional() }),
  z.object({ kind: z.literal('logo'), ...common, picture }),
  /** A kind of the user's own; its label names it. */
  z.object({ kind: z.literal('own'), ...common, text: lines(LIMITS.text) }),
]);
export type Detail = z.infer<typeof DetailSchema>;
export type DetailKind = Detail['kind'];
export type DetailOf<K extends DetailKind> = Extract<Detail, { kind: K }>;

/** A property of an imported file that no detail stands for, as a content line of vCard 4.0: kept, exported, never published. */
export const KeptPropertySchema = z.object({
  property: z.string().max(LIMITS.keptProperty),
  why: z.enum([
    'not-understood',
    'another-language',
    'refused-link',
    'linked-photo',
    'too-many',
    'unreadable-value',
    'unreadable-photo',
  ]),
});
export type KeptProperty = z.infer<typeof KeptPropertySchema>;

const Spoken = z.object({
  name: z.looseObject({ phoneticGiven: text.default(''), phoneticFamily: text.default('') }),
  details: z.array(z.unknown()).max(LIMITS.details - 1),
});

/** A record of before how a name is said was a detail, read as one of now. */
function saidAsDetail(stored: unknown): unknown {
  const read = Spoken.safeParse(stored);
  const said = read.success
    ? [read.data.name.phoneticGiven, read.data.name.phoneticFamily].filter(Boolean).join(' ')
    : '';
  if (!read.success || !said) return stored;
  const { phoneticGiven: _given, phoneticFamily: _family, ...name } = read.data.name;
  const detail = { kind: 'said', id: 'said', text: said.slice(0, LIMITS.text) };
  return { ...(stored as object), name, details: [...read.data.details, detail] };
}

/** All that is known of a person. The source of truth, never published itself. */
export const RecordSchema = z.preprocess(
  saidAsDetail,
  z.object({
    name: NameSchema,
    details: z.array(DetailSchema).max(LIMITS.details),
    kept: z.array(KeptPropertySchema).max(LIMITS.kept).default([]),
    /** The UID that the contact came with, by which it is known again (RFC 6350 6.7.6). */
    uid: text.optional(),
  }),
);
export type PersonRecord = z.infer<typeof RecordSchema>;
