import { change, inputOf } from '@/app/request/respond';
import { PackSchema } from '@/core/pack';
import { systemClock } from '@/server/clock';
import { askPack } from '@/server/services/pieces/pack';

/** Asks for one ZIP of the files of many people. */
export const POST = (request: Request) =>
  change(request, 'change', async (actor) => askPack(actor, await inputOf(request, PackSchema), systemClock));
