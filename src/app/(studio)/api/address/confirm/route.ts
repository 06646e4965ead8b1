import { z } from 'zod';
import { inputOf, networkOfClient, refuseCrossSite, respond } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { confirmAddress } from '@/server/services/accounts/own-address';

const Input = z.object({ token: z.string().max(100) });

export const POST = (request: Request) =>
  respond(async () => {
    refuseCrossSite(request);
    await limitRate('link', networkOfClient(request), systemClock);
    await confirmAddress((await inputOf(request, Input)).token, systemClock);
  });
