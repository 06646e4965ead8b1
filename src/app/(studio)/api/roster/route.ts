import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { ColumnsSchema, OptionsSchema, PlaceSchema, RunNameSchema } from '@/core/roster/schema';
import { systemClock } from '@/server/clock';
import { beginRun } from '@/server/services/roster/begin-run';

const Input = z.object({
  name: RunNameSchema,
  cardId: z.uuid(),
  columns: ColumnsSchema,
  place: PlaceSchema,
  options: OptionsSchema,
  keepAs: z.string().max(80).nullable(),
});

/** Begins a run of a sheet of staff; the sheet itself is given next. */
export const POST = (request: Request) =>
  change(request, 'import', async (actor) => beginRun(actor, await inputOf(request, Input), systemClock));
