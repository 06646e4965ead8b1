import { z } from 'zod';
import { inputOf, networkOfClient, refuseCrossSite, respond } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { chooseNewPassword } from '@/server/services/accounts/forgotten';
import { limitRate } from '@/server/services/accounts/limit-rate';

const Input = z.object({ token: z.string().max(100), next: z.string().max(1_000) });

export const POST = (request: Request) =>
  respond(async () => {
    refuseCrossSite(request);
    await limitRate('link', networkOfClient(request), systemClock);
    const { token, next } = await inputOf(request, Input);
    await chooseNewPassword(token, next, systemClock);
  });
