import { bytesOf, change, idOf } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { giveSheet } from '@/server/services/roster/begin-run';

/** The sheet of a run as bytes; only columns that have a field are kept. */
export const PUT = (request: Request, { params }: { params: Promise<{ run: string }> }) =>
  change(request, 'import', async (actor) =>
    giveSheet(actor, idOf((await params).run), await bytesOf(request, LIMITS.sheetBytes), systemClock),
  );
