import { z } from 'zod';
import { entered } from '@/app/request/entry';
import { networkOfClient } from '@/app/request/respond';
import { keepDevice, keepSession } from '@/app/request/session';
import { systemClock } from '@/server/clock';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { rememberBrowser } from '@/server/services/accounts/sign-in';
import { signUp } from '@/server/services/accounts/sign-up';

const Input = z.object({
  name: z.string().max(300),
  email: z.string().max(300),
  password: z.string().max(1_000),
  country: z.string().regex(/^[A-Z]{2}$/),
  timeZone: z.string().max(60),
});

export const POST = (request: Request) =>
  entered(request, Input, { onto: '/people', from: '/sign-up' }, async (input) => {
    await limitRate('sign-up', networkOfClient(request), systemClock);
    const token = await signUp({ ...input, userAgent: request.headers.get('user-agent') ?? '' }, systemClock);
    await keepSession(token);
    await keepDevice(await rememberBrowser(token, systemClock));
  });
