/** So many people at a time: while one is proven, another is written. */
const LANES = 4;

/** Does something for each, several at a time, and tells how far it is; what fails stops the others, and is thrown once they have ended. */
export async function inLanes<T>(
  all: readonly T[],
  progress: (done: number, total: number) => Promise<void>,
  each: (one: T) => Promise<void>,
): Promise<void> {
  const waiting = [...all];
  let done = 0;
  let stopped: { error: unknown } | null = null;
  const lane = async () => {
    for (let one = waiting.shift(); one !== undefined && !stopped; one = waiting.shift())
      try {
        await each(one);
        done += 1;
        await progress(done, all.length);
      } catch (error) {
        stopped ??= { error };
      }
  };
  await progress(0, all.length);
  await Promise.all(Array.from({ length: LANES }, lane));
  if (stopped) throw (stopped as { error: unknown }).error;
}
