import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { chooseEveningMail } from '@/server/services/replies/evening';

const Input = z.object({ on: z.boolean() });

/** Whether the member is told in the evening who came. */
export const PUT = (request: Request) =>
  change(request, 'change', async (actor) => chooseEveningMail(actor, (await inputOf(request, Input)).on));
