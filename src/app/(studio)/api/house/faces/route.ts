import { z } from 'zod';
import { svgResponse } from '@/app/request/faces';
import { change, inputOf } from '@/app/request/respond';
import { FACE_NAMES } from '@/core/face';
import { HouseStyleSchema } from '@/core/house';
import { LIMITS } from '@/core/limits';
import { LAYOUT_NAMES } from '@/core/look';
import { faceUnderHouse } from '@/server/services/house/house-cards';

const Input = z.object({
  card: z.uuid(),
  face: z.enum(FACE_NAMES),
  layout: z.enum(LAYOUT_NAMES).nullish(),
  style: HouseStyleSchema,
});

/** A face of a card under a house style that is not saved yet. */
export const POST = (request: Request) =>
  change(request, 'change', async (actor) => {
    const { card, face, layout, style } = await inputOf(request, Input, LIMITS.jsonBytes);
    return svgResponse(await faceUnderHouse(actor, card, style, face, layout ?? null));
  });
