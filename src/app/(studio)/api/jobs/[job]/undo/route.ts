import { change, idOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { askToUndo } from '@/server/services/changes/undo-change';

/** Asks to undo what a job has mended or changed. */
export const POST = (request: Request, { params }: { params: Promise<{ job: string }> }) =>
  change(request, 'change', async (actor) => askToUndo(actor, idOf((await params).job), systemClock));
