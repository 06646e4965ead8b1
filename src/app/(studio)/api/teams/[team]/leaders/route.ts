import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { chooseLeaders } from '@/server/services/roster/teams';

const Input = z.object({ leaders: z.array(z.uuid()).max(50) });
type Params = { params: Promise<{ team: string }> };

/** Has these members lead a team, and nobody else. */
export const PUT = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) =>
    chooseLeaders(actor, idOf((await params).team), (await inputOf(request, Input)).leaders, systemClock),
  );
