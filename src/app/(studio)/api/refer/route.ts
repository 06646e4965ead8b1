import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { DetailSchema } from '@/core/record';
import { systemClock } from '@/server/clock';
import { addContact } from '@/server/services/contacts/contacts';

const Input = z.object({ name: z.string().max(300), details: z.array(DetailSchema).max(LIMITS.details) });

/** Notes somebody whom the member may refer. */
export const POST = (request: Request) =>
  change(request, 'change', async (actor) => addContact(actor, await inputOf(request, Input), systemClock));
