/** A stream ends by itself after a while; the browser opens the next one. */
const LONGEST_MS = 5 * 60_000;

/**
 * Server-sent events (WHATWG HTML 9.2): one for each change of what `look` sees, until `ends` says so. The database away for a
 * moment is no reason to tell the screen anything.
 */
export function eventStream<T>(
  request: Request,
  first: T,
  options: { look: () => Promise<T>; everyMs: number; ends: (seen: T) => boolean },
): Response {
  const encoder = new TextEncoder();
  const event = (seen: T) => `data: ${JSON.stringify(seen)}\n\n`;
  const stream = new ReadableStream({
    async start(controller) {
      const until = performance.now() + LONGEST_MS;
      let seen = first;
      let last = event(seen);
      controller.enqueue(encoder.encode(last));
      while (!options.ends(seen) && !request.signal.aborted && performance.now() < until) {
        await new Promise((resolve) => setTimeout(resolve, options.everyMs));
        seen = await options.look().catch(() => seen);
        if (event(seen) !== last && !request.signal.aborted) controller.enqueue(encoder.encode((last = event(seen))));
      }
      if (!request.signal.aborted) controller.close();
    },
  });
  return new Response(stream, {
    headers: { 'Content-Type': 'text/event-stream; charset=utf-8', 'Cache-Control': 'no-store, no-transform' },
  });
}
