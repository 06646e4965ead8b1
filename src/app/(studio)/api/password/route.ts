import { z } from 'zod';
import { networkOfClient, change, inputOf } from '@/app/request/respond';
import { keepSession } from '@/app/request/session';
import { deviceOf } from '@/core/access';
import { systemClock } from '@/server/clock';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { changePassword } from '@/server/services/accounts/members';

const Input = z.object({ present: z.string().max(1_000), next: z.string().max(1_000) });

export const POST = (request: Request) =>
  change(request, 'change', async (actor) => {
    // Whoever finds an open studio must not try passwords here either.
    await limitRate('sign-in to an account', `${actor.userId} from ${networkOfClient(request)}`, systemClock);
    const input = await inputOf(request, Input);
    const device = deviceOf(request.headers.get('user-agent') ?? '');
    await keepSession((await changePassword(actor, { ...input, device }, systemClock)).token);
  });
