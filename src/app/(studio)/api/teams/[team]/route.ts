import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { removeTeam, saveTeam } from '@/server/services/roster/teams';

const Input = z.object({ name: z.string().max(200) });
type Params = { params: Promise<{ team: string }> };

/** Gives a team another name. */
export const PUT = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) =>
    saveTeam(actor, idOf((await params).team), (await inputOf(request, Input)).name, systemClock),
  );

/** Removes a team; its people stay. */
export const DELETE = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => removeTeam(actor, idOf((await params).team), systemClock));
