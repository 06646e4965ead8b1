import { change, idOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { cancelJob } from '@/server/services/jobs/jobs';

export const POST = (request: Request, { params }: { params: Promise<{ job: string }> }) =>
  change(request, 'change', async (actor) => cancelJob(actor, idOf((await params).job), systemClock));
