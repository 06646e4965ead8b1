import { z } from 'zod';
import { inputOf, networkOfClient, refuseCrossSite, respond } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { answerMove } from '@/server/services/accounts/own-address';

const Input = z.object({ token: z.string().max(100), agrees: z.boolean() });

export const POST = (request: Request) =>
  respond(async () => {
    refuseCrossSite(request);
    await limitRate('link', networkOfClient(request), systemClock);
    const { token, agrees } = await inputOf(request, Input);
    return answerMove(token, agrees, systemClock);
  });
