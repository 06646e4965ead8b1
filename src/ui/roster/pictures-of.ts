/** What the worker is asked and tells. */
type UnpackAsked = { zip: Blob } | { next: true };
type Unpacked = { name: string; bytes: Uint8Array<ArrayBuffer> | null } | { done: true; problem: boolean };

/** A picture to be sent, under its file name; one without bytes is larger than a picture may be. */
export type GivenPicture = { name: string; bytes: Blob | null };

const isPicture = ({ name, type }: File) => type.startsWith('image/') || /\.(jpe?g|png|webp|avif|heic)$/i.test(name);
export const isArchive = ({ name, type }: File) => type === 'application/zip' || /\.zip$/i.test(name);

/** The pictures among files that were chosen or dropped, of archives those inside, one after the other. Throws where one is damaged. */
export async function* picturesOf(files: readonly File[]): AsyncGenerator<GivenPicture> {
  for (const file of files)
    if (isArchive(file)) yield* unpacked(file);
    else if (isPicture(file)) yield { name: file.name, bytes: file };
}

async function* unpacked(zip: File): AsyncGenerator<GivenPicture> {
  const worker = new Worker(new URL('../../workers/unpack-pictures.ts', import.meta.url), { type: 'module' });
  const ask = (asked: UnpackAsked) => worker.postMessage(asked);
  const told: Unpacked[] = [];
  let wake: () => void = () => undefined;
  worker.addEventListener('message', ({ data }: MessageEvent<Unpacked>) => (told.push(data), wake()));
  worker.addEventListener('error', () => (told.push({ done: true, problem: true }), wake()));
  try {
    ask({ zip });
    for (;;) {
      const next = told.shift();
      if (!next) {
        await new Promise<void>((resolve) => (wake = resolve));
        continue;
      }
      if ('done' in next) {
        if (next.problem) throw new Error('damaged');
        return;
      }
      yield { name: next.name, bytes: next.bytes && new Blob([next.bytes]) };
      ask({ next: true });
    }
  } finally {
    worker.terminate();
  }
}
