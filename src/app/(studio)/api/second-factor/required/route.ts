import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { requireSecondFactor } from '@/server/services/accounts/second-factor';

const Input = z.object({ required: z.boolean() });

/** Whether everybody of the organisation needs a second factor. */
export const PUT = (request: Request) =>
  change(request, 'change', async (actor) =>
    requireSecondFactor(actor, (await inputOf(request, Input)).required, systemClock),
  );
