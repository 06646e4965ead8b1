import { z } from 'zod';
import { entered } from '@/app/request/entry';
import { networkOfClient } from '@/app/request/respond';
import { keepDevice, keepSession } from '@/app/request/session';
import { deviceOf } from '@/core/access';
import { systemClock } from '@/server/clock';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { rememberBrowser } from '@/server/services/accounts/sign-in';
import { takeInvitation } from '@/server/services/accounts/welcome';

const Input = z.object({ token: z.string().max(100), password: z.string().max(1_000).default('') });

/** Takes an invitation, with a password or without one, and signs in. */
export const POST = (request: Request) =>
  entered(request, Input, { onto: '/mine', from: '/sign-in' }, async ({ token, password }) => {
    await limitRate('link', networkOfClient(request), systemClock);
    const device = deviceOf(request.headers.get('user-agent') ?? '');
    const session = await takeInvitation({ token, password: password === '' ? null : password, device }, systemClock);
    await keepDevice(await rememberBrowser(session, systemClock));
    await keepSession(session);
  });
