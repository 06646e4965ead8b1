import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { saveTeam } from '@/server/services/roster/teams';

const Input = z.object({ name: z.string().max(200) });

/** Makes a team. */
export const POST = (request: Request) =>
  change(request, 'change', async (actor) => saveTeam(actor, null, (await inputOf(request, Input)).name, systemClock));
