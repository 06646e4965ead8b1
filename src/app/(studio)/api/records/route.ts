import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { DetailSchema, NAME_KINDS } from '@/core/record';
import { systemClock } from '@/server/clock';
import { createRecord } from '@/server/services/records/create-record';

const typed = z.string().max(2_000);
const Input = z.object({
  name: typed,
  kind: z.enum(NAME_KINDS).optional(),
  phone: typed,
  email: typed,
  title: typed.optional(),
  firm: typed.optional(),
  photo: z
    .string()
    .regex(/^([0-9a-f]{64})?$/)
    .optional(),
  more: z.array(DetailSchema).max(60).optional(),
  forWork: z.object({ phone: z.boolean(), email: z.boolean() }).optional(),
  both: z.boolean().optional(),
});

export const POST = (request: Request) =>
  change(request, 'change', async (actor) => createRecord(actor, await inputOf(request, Input), systemClock));
