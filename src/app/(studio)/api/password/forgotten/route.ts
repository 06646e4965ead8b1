import { z } from 'zod';
import { entered } from '@/app/request/entry';
import { networkOfClient } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { askNewPassword } from '@/server/services/accounts/forgotten';
import { limitRate } from '@/server/services/accounts/limit-rate';

const Input = z.object({ email: z.string().max(300) });

export const POST = (request: Request) =>
  entered(request, Input, { onto: '/forgotten?sent=1', from: '/forgotten' }, async ({ email }) => {
    await limitRate('forgotten password', networkOfClient(request), systemClock);
    await askNewPassword(email, systemClock);
  });
