import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { AudienceSchema, LEFT_OUT } from '@/core/card';
import { LAYOUT_NAMES } from '@/core/look';
import { systemClock } from '@/server/clock';
import { createCard } from '@/server/services/cards/create-card';

const Input = z.object({
  recordId: z.uuid(),
  audience: AudienceSchema,
  isPrivate: z.boolean(),
  layout: z.enum(LAYOUT_NAMES).optional(),
  without: z.array(z.enum(LEFT_OUT)).optional(),
  from: z
    .union([z.object({ card: z.uuid() }), z.object({ start: z.string().max(40) })])
    .nullable()
    .optional(),
});

export const POST = (request: Request) =>
  change(request, 'change', async (actor) => createCard(actor, await inputOf(request, Input), systemClock));
