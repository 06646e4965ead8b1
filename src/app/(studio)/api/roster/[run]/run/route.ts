import { change, idOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { startRun } from '@/server/services/roster/run-roster';

/** Carries a run out, or goes on with it. */
export const POST = (request: Request, { params }: { params: Promise<{ run: string }> }) =>
  change(request, 'import', async (actor) => startRun(actor, idOf((await params).run), systemClock));
