import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { removeLeads } from '@/server/services/replies/keep-lead';

const Input = z.object({ ids: z.array(z.uuid()).min(1).max(LIMITS.leadsAtOnce) });

/** Erases several leads, each with all that was told and noted. */
export const POST = (request: Request) =>
  change(request, 'change', async (actor) => removeLeads(actor, (await inputOf(request, Input)).ids, systemClock));
