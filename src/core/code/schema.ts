import { z } from 'zod';
import { LIMITS } from '@/core/limits';
import { CONTACT_FORMS, LINE_ACTS, WIFI_KINDS, type Content } from './contents';

// Apart from what contents become, which browsers work out and which needs no schema.

const short = z.string().max(LIMITS.text);
const time = z.string().regex(/^\d{4}-\d\d-\d\dT\d\d:\d\d$/);

/** What a code makes a phone do, as it comes from outside. */
export const ContentSchema: z.ZodType<Content> = z.discriminatedUnion('what', [
  z.strictObject({ what: z.literal('card') }),
  z.strictObject({ what: z.literal('save') }),
  z.strictObject({ what: z.literal('contact'), form: z.enum(CONTACT_FORMS), link: z.boolean() }),
  ...LINE_ACTS.map((what) => z.strictObject({ what: z.literal(what), line: z.string().max(100) })),
  z.strictObject({ what: z.literal('address'), url: z.string().max(LIMITS.link) }),
  z.strictObject({ what: z.literal('words'), text: z.string().max(LIMITS.codeBytes) }),
  z.strictObject({
    ...{ what: z.literal('wifi'), name: z.string().max(64), password: z.string().max(128) },
    ...{ kind: z.enum(WIFI_KINDS), hidden: z.boolean() },
  }),
  z.strictObject({
    ...{ what: z.literal('place'), latitude: z.number().min(-90).max(90), longitude: z.number().min(-180).max(180) },
    label: short,
  }),
  z.strictObject({ what: z.literal('appointment'), title: short, from: time, until: time, place: short }),
]);
