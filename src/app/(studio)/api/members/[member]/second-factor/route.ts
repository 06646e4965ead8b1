import { change, idOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { resetSecondFactor } from '@/server/services/accounts/second-factor';

/** Takes a member's second factor away. */
export const DELETE = (request: Request, { params }: { params: Promise<{ member: string }> }) =>
  change(request, 'change', async (actor) => resetSecondFactor(actor, idOf((await params).member), systemClock));
