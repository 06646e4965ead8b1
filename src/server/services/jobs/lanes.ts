/** Does something for each, so many at a time, and tells how far it is; what fails keeps the others from beginning, and is thrown once those under way have ended. */
export async function inLanes<T>(
  all: readonly T[],
  { lanes, progress }: { lanes: number; progress: (done: number, total: number) => Promise<void> },
  each: (one: T) => Promise<void>,
): Promise<void> {
  const waiting = [...all];
  const failed: unknown[] = [];
  let done = 0;
  const lane = async () => {
    for (let one = waiting.shift(); one !== undefined && failed.length === 0; one = waiting.shift())
      try {
        await each(one);
        done += 1;
        await progress(done, all.length);
      } catch (error) {
        failed.push(error);
      }
  };
  await progress(0, all.length);
  await Promise.all(Array.from({ length: lanes }, lane));
  if (failed.length > 0) throw failed[0];
}
