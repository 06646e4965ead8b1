import { z } from 'zod';
import { entered } from '@/app/request/entry';
import { addressOf, refuseCrossSite } from '@/app/request/respond';
import { keepSession } from '@/app/request/session';
import { systemClock } from '@/server/clock';
import { signIn } from '@/server/services/sign-in';

const Input = z.object({ email: z.string().max(300), password: z.string().max(1_000) });

export const POST = (request: Request) =>
  entered(request, Input, { onto: '/', from: '/sign-in' }, async (input) => {
    refuseCrossSite(request);
    await keepSession(await signIn({ ...input, from: addressOf(request) }, systemClock));
  });
