import { z } from 'zod';
import { Refusal } from '@/core/errors';
import { FACE_NAMES } from '@/core/face';
import { LAYOUT_NAMES } from '@/core/look';
import { LanguageSchema } from '@/core/language/schema';
import type { DrawnFace } from '@/server/services/media/card-faces';

/** Which face an address names: `card-lying.svg`, `picture.jpg`, `picture.webp`, `link.jpg`. */
const FaceSchema = z
  .string()
  .regex(/^[a-z-]{1,20}\.(svg|jpg|webp)$/)
  .transform((name) => name.split('.') as [string, 'svg' | 'jpg' | 'webp'])
  .pipe(z.tuple([z.enum(FACE_NAMES), z.enum(['svg', 'jpg', 'webp'])]));

const QuerySchema = z.object({
  layout: z.enum(LAYOUT_NAMES).nullable(),
  language: LanguageSchema.nullable(),
  start: z
    .string()
    .max(60)
    .nullable()
    .transform((start) => start || null),
  private: z.enum(['yes', 'no']).nullable(),
  channel: z
    .enum(['page', 'print'])
    .nullable()
    .transform((channel) => channel ?? 'page'),
});

/** The face that a request is for, and how it is to be shown. Error: NOT_FOUND. */
export function askedFace(request: Request, name: string) {
  const face = FaceSchema.safeParse(name);
  const query = new URL(request.url).searchParams;
  const shown = QuerySchema.safeParse({
    layout: query.get('layout'),
    language: query.get('language'),
    start: query.get('start'),
    private: query.get('private'),
    channel: query.get('channel'),
  });
  if (!face.success || !shown.success) throw new Refusal({ code: 'NOT_FOUND' });
  return { name: face.data[0], format: face.data[1], ...shown.data };
}

/** A drawing as a picture that can do nothing; headers tell what had no room. */
export const svgResponse = ({ svg, leftOut, cut, missing, smallestType }: DrawnFace): Response =>
  new Response(svg, {
    headers: {
      'Content-Type': 'image/svg+xml; charset=utf-8',
      'Content-Security-Policy': "default-src 'none'; img-src data:; style-src 'none'; sandbox",
      'Cache-Control': 'private, no-cache',
      'X-Content-Type-Options': 'nosniff',
      'Heathland-Face': [leftOut.length, cut.join('+') || '-', missing.length, smallestType.toFixed(2)].join(' '),
    },
  });
