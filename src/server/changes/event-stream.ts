import { changesAreTold, hearChanges } from './hear';

/** A stream ends by itself after a while; the browser opens the next one. */
const LONGEST_MS = 5 * 60_000;
/** A comment as often as this keeps the connection from being taken for one that stands still. */
const SIGN_MS = 20_000;
/** Streams that one person keeps open: a few screens of a few windows. The oldest ends for one more, and its browser asks again later. */
const OPEN_OF_ONE = 12;
/** Looks that follow each other closely are one. */
const LEAST_BETWEEN_MS = 150;

/** A framework that bundles this file several times over still counts once. */
const PLACE = Symbol.for('heathland.streams');
const here = globalThis as { [PLACE]?: Map<string, (() => void)[]> };

/** Notes a stream of a person; answers with what forgets it. */
function opened(person: string, end: () => void): () => void {
  const all = (here[PLACE] ??= new Map<string, (() => void)[]>());
  const own = [...(all.get(person) ?? []), end];
  while (own.length > OPEN_OF_ONE) own.shift()!();
  all.set(person, own);
  return () => {
    const left = (all.get(person) ?? []).filter((each) => each !== end);
    if (left.length === 0) all.delete(person);
    else all.set(person, left);
  };
}

/**
 * Server-sent events (WHATWG HTML 9.2) to a person: one for each change of what `look` sees, until `ends` says so. It looks when the
 * database tells that one of the things with the ids `of` has changed, and every `everyMs` while the database cannot tell. The
 * database away for a moment is no reason to tell the screen anything.
 */
export function eventStream<T>(
  request: Request,
  person: string,
  first: T,
  options: { of: readonly string[]; look: () => Promise<T>; everyMs: number; ends: (seen: T) => boolean },
): Response {
  const encoder = new TextEncoder();
  const event = (seen: T) => `data: ${JSON.stringify(seen)}\n\n`;
  let over = false;
  const changes = hearChanges(options.of);
  const end = () => {
    over = true;
    changes.wake();
  };
  const forget = opened(person, end);
  request.signal.addEventListener('abort', changes.wake, { once: true });
  const isOver = () => over || request.signal.aborted;
  const stream = new ReadableStream({
    async start(controller) {
      const tell = (text: string) => controller.enqueue(encoder.encode(text));
      const until = performance.now() + LONGEST_MS;
      let told = performance.now();
      let seen = first;
      let last = event(seen);
      try {
        tell(last);
        while (!options.ends(seen) && !isOver() && performance.now() < until) {
          await changes.next(changesAreTold() ? SIGN_MS : options.everyMs);
          if (isOver()) break;
          seen = await options.look().catch(() => seen);
          const now = event(seen);
          if (isOver()) break;
          if (now !== last || performance.now() - told >= SIGN_MS) {
            tell(now === last ? ':\n\n' : now);
            [last, told] = [now, performance.now()];
          }
          await new Promise((resolve) => setTimeout(resolve, LEAST_BETWEEN_MS));
        }
        if (!request.signal.aborted) controller.close();
      } finally {
        forget();
        changes.stop();
      }
    },
    cancel: end,
  });
  return new Response(stream, {
    headers: {
      'Content-Type': 'text/event-stream; charset=utf-8',
      'Cache-Control': 'no-store, no-transform',
      // A proxy that gathers answers before it hands them on would hold the changes back.
      'X-Accel-Buffering': 'no',
    },
  });
}
