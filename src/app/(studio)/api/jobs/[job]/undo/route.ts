import { change, idOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { askToUndoMend } from '@/server/services/wild/run-mend';

/** Asks to undo what a job has mended. */
export const POST = (request: Request, { params }: { params: Promise<{ job: string }> }) =>
  change(request, 'change', async (actor) => askToUndoMend(actor, idOf((await params).job), systemClock));
