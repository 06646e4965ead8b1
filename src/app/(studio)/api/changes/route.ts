import { change, inputOf } from '@/app/request/respond';
import { ChangeManySchema } from '@/core/change';
import { systemClock } from '@/server/clock';
import { askToChange } from '@/server/services/changes/run-change';

/** Asks for one change of many people. */
export const POST = (request: Request) =>
  change(request, 'change', async (actor) => askToChange(actor, await inputOf(request, ChangeManySchema), systemClock));
