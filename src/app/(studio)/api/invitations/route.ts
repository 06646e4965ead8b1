import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { askToInvite } from '@/server/services/accounts/invitations';

const Input = z.object({ records: z.array(z.uuid()).min(1).max(LIMITS.members) });

/** Asks for people to be invited. */
export const POST = (request: Request) =>
  change(request, 'change', async (actor) => askToInvite(actor, (await inputOf(request, Input)).records, systemClock));
