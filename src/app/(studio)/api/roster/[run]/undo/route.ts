import { change, idOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { undoRun } from '@/server/services/roster/undo-roster';

/** Undoes a run as a whole. */
export const POST = (request: Request, { params }: { params: Promise<{ run: string }> }) =>
  change(request, 'import', async (actor) => undoRun(actor, idOf((await params).run), systemClock));
