import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { changeTeam } from '@/server/services/roster/teams';

const Input = z.object({ records: z.array(z.uuid()).max(LIMITS.contactsAtOnce), into: z.boolean() });

/** Puts people into a team, or takes them out of it. */
export const POST = (request: Request, { params }: { params: Promise<{ team: string }> }) =>
  change(request, 'change', async (actor) =>
    changeTeam(actor, idOf((await params).team), await inputOf(request, Input), systemClock),
  );
