import { actorOrRefuse, idOf, respond } from '@/app/request/respond';
import { hasEnded, type ShownJob } from '@/core/jobs';
import { systemClock } from '@/server/clock';
import { limitRate } from '@/server/services/limit-rate';
import { readJob } from '@/server/services/jobs';

export const dynamic = 'force-dynamic';

const LOOK_MS = 400;
/** A stream ends by itself after a while; the browser opens the next one. */
const LONGEST_MS = 5 * 60_000;

const event = (job: ShownJob) => `data: ${JSON.stringify(job)}\n\n`;

/** A job's progress as server-sent events (WHATWG HTML 9.2): one for each change, until it has ended. */
export const GET = (request: Request, { params }: { params: Promise<{ job: string }> }) =>
  respond(async () => {
    const actor = await actorOrRefuse();
    await limitRate('progress', actor.userId, systemClock);
    const id = idOf((await params).job);
    const first = await readJob(actor, id);
    const encoder = new TextEncoder();
    const stream = new ReadableStream({
      async start(controller) {
        const until = performance.now() + LONGEST_MS;
        let last = event(first);
        controller.enqueue(encoder.encode(last));
        let job = first;
        while (!hasEnded(job.state) && !request.signal.aborted && performance.now() < until) {
          await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
          // The database away for a moment is no reason to tell the screen anything.
          job = await readJob(actor, id).catch(() => job);
          if (event(job) !== last && !request.signal.aborted) controller.enqueue(encoder.encode((last = event(job))));
        }
        if (!request.signal.aborted) controller.close();
      },
    });
    return new Response(stream, {
      headers: { 'Content-Type': 'text/event-stream; charset=utf-8', 'Cache-Control': 'no-store, no-transform' },
    });
  });
