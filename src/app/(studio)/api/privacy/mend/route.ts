import { MendInput } from '@/app/request/privacy';
import { change, inputOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { askToMend } from '@/server/services/wild/mend';

/** Asks for a mend of what is private in public. */
export const POST = (request: Request) =>
  change(request, 'change', async (actor) => askToMend(actor, await inputOf(request, MendInput), systemClock));
