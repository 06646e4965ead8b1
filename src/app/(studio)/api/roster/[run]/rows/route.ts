import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { FIELDS } from '@/core/roster';
import { systemClock } from '@/server/clock';
import { mendRows } from '@/server/services/roster/open-run';

const Input = z.object({
  rows: z.array(z.number().int().min(1).max(10_000_000)).min(1).max(500),
  field: z.enum(FIELDS),
  find: z.string().min(1).max(LIMITS.text).nullable(),
  text: z.string().max(LIMITS.text),
});

/** Corrects a cell of rows. */
export const PUT = (request: Request, { params }: { params: Promise<{ run: string }> }) =>
  change(request, 'change', async (actor) =>
    mendRows(actor, idOf((await params).run), await inputOf(request, Input), systemClock),
  );
