import { Unzip, UnzipInflate } from 'fflate';
import { LIMITS } from '@/core/limits';

/** A ZIP to look into; then one `next` for each picture that was seen to. */
type UnpackAsked = { zip: Blob } | { next: true };
/** A picture with the name of its file, whatever folder it lay in; one beyond the limit has no bytes. `done` once all were handed over. */
type Unpacked = { name: string; bytes: Uint8Array<ArrayBuffer> | null } | { done: true; problem: boolean };

/** So many pictures are unpacked ahead of whoever sends them. */
const AHEAD = 4;
/** Files of an archive that are looked at, pictures or not. */
const MOST_FILES = 20_000;
const PICTURE = /\.(jpe?g|png|webp|avif|heic)$/i;

const tell = (told: Unpacked) =>
  'bytes' in told && told.bytes ? postMessage(told, { transfer: [told.bytes.buffer] }) : postMessage(told);

let waiting = 0;
let goOn: (() => void) | null = null;

/**
 * Unpacks a ZIP piece by piece in the browser, so that an archive of a gigabyte is never held and never leaves as one. Paths are of no
 * meaning: a picture has a name and no place. What grows beyond the limit of a picture is dropped there, however small it was packed.
 */
async function unpack(zip: Blob): Promise<void> {
  let [files, problem] = [0, false];
  const unzip = new Unzip((file) => {
    files += 1;
    const name = file.name.split(/[/\\]/).pop() ?? '';
    // Programs leave notes about pictures beside them.
    if (files > MOST_FILES || !PICTURE.test(name) || name.startsWith('.')) return;
    const parts: Uint8Array[] = [];
    let length = 0;
    file.ondata = (error, part, last) => {
      if (error) return void (problem = true);
      length += part.length;
      if (length <= LIMITS.photoBytes) parts.push(part);
      else parts.length = 0;
      if (!last && length <= LIMITS.photoBytes) return;
      if (!last) file.terminate();
      if (length > LIMITS.photoBytes) tell({ name, bytes: null });
      else {
        const bytes = new Uint8Array(length);
        let at = 0;
        for (const each of parts) {
          bytes.set(each, at);
          at += each.length;
        }
        tell({ name, bytes });
      }
      waiting += 1;
    };
    file.start();
  });
  unzip.register(UnzipInflate);
  try {
    const reader = (zip.stream() as ReadableStream<Uint8Array>).getReader();
    for (let part = await reader.read(); !part.done; part = await reader.read()) {
      unzip.push(part.value, false);
      if (waiting >= AHEAD) await new Promise<void>((resolve) => (goOn = resolve));
    }
    unzip.push(new Uint8Array(0), true);
  } catch {
    problem = true;
  }
  tell({ done: true, problem: problem || files === 0 });
}

addEventListener('message', ({ data }: MessageEvent<UnpackAsked>) => {
  if ('zip' in data) return void unpack(data.zip);
  waiting -= 1;
  if (waiting < AHEAD) goOn?.();
});
