import { actorOrRefuse, idOf, respond } from '@/app/request/respond';
import { eventStream } from '@/server/changes';
import { hasEnded } from '@/core/jobs';
import { systemClock } from '@/server/clock';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { readJob } from '@/server/services/jobs/jobs';

export const dynamic = 'force-dynamic';

/** A job's progress: an event for each change, until it has ended. */
export const GET = (request: Request, { params }: { params: Promise<{ job: string }> }) =>
  respond(async () => {
    const actor = await actorOrRefuse();
    await limitRate('progress', actor.userId, systemClock);
    const id = idOf((await params).job);
    const look = () => readJob(actor, id);
    return eventStream(request, actor.userId, await look(), {
      of: [id],
      look,
      everyMs: 400,
      ends: (job) => hasEnded(job.state),
    });
  });
