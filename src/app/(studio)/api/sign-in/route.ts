import { z } from 'zod';
import { addressOf, inputOf, refuseCrossSite, respond } from '@/app/request/respond';
import { keepSession } from '@/app/request/session';
import { systemClock } from '@/server/clock';
import { signIn } from '@/server/services/sign-in';

const Input = z.object({ email: z.string().max(300), password: z.string().max(1_000) });

export const POST = (request: Request) =>
  respond(async () => {
    refuseCrossSite(request);
    const input = await inputOf(request, Input);
    await keepSession(await signIn({ ...input, from: addressOf(request) }, systemClock));
  });
