import { z } from 'zod';
import { entered } from '@/app/request/entry';
import { networkOfClient } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { askForCode } from '@/server/services/accounts/mailed-code';

const Input = z.object({ email: z.string().max(300) });

/** Sends a code to sign in by, in the place of a password. */
export const POST = (request: Request) =>
  entered(request, Input, { onto: '/sign-in', from: '/sign-in' }, async ({ email }) => {
    await limitRate('forgotten password', networkOfClient(request), systemClock);
    await askForCode(email, systemClock);
  });
