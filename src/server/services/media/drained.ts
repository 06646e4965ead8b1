import type { PassThrough } from 'node:stream';

/** Resolves once a stream takes more, or is closed: whoever writes goes on as fast as it is read. */
export const drained = (out: PassThrough): Promise<void> =>
  new Promise((go) => {
    if (!out.writableNeedDrain || out.destroyed) return go();
    const resume = () => {
      out.off('drain', resume).off('close', resume);
      go();
    };
    out.on('drain', resume).on('close', resume);
  });
