import { readAddress, readCode, readPreview } from '@/core/card';
import type { Asked } from './request';

const PATH =
  /^\/([chp])\/([^/.]{1,100})(?:(\.vcf)|\/(tap)|\/(photo|logo)-([0-9a-f]{64})\.(?:jpg|png)|\/file-([0-9a-f]{64}))?\/?$/i;

const readLately = new Map<string, Asked | null>();
const MOST_PATHS = 5_000;

/** As {@link readPath}, remembering what was asked lately: a printed code is asked for thousands of times a day. */
export function askedBy(path: string): Asked | null {
  const known = readLately.get(path);
  if (known !== undefined) return known;
  if (readLately.size >= MOST_PATHS) readLately.clear();
  const asked = readPath(path);
  readLately.set(path, asked);
  return asked;
}

/** Reads a public path: `/c/NAME`, `/c/NAME.vcf`, `/c/NAME/tap`, `/c/NAME/photo-HASH.jpg`, `/c/NAME/logo-HASH.png`, `/c/NAME/file-HASH`, and the same under `/h/CODE` and `/p/PREVIEW`. */
function readPath(path: string): Asked | null {
  const found = PATH.exec(path);
  if (!found) return null;
  const [, room, name, vcf, tap, which, hash, file] = found as unknown as [
    string,
    string,
    string,
    string?,
    string?,
    string?,
    string?,
    string?,
  ];
  const what: Asked['what'] = vcf
    ? { output: 'file' }
    : tap
      ? { output: 'tap' }
      : hash
        ? { output: which!.toLowerCase() === 'logo' ? 'logo' : 'photo', hash: hash.toLowerCase() }
        : file
          ? { output: 'block file', hash: file.toLowerCase() }
          : { output: 'page' };
  if (room.toLowerCase() === 'p') {
    const preview = readPreview(name);
    return preview && !tap ? { key: { preview }, what, base: `/p/${preview}` } : null;
  }
  if (room.toLowerCase() === 'h') {
    const code = readCode(name);
    return code ? { key: { code }, what, base: `/h/${code}` } : null;
  }
  const address = readAddress(name);
  return address.ok ? { key: { address: address.value }, what, base: `/c/${address.value}` } : null;
}

/** Whether a path belongs to recipients and not to the studio. */
export const isPublicPath = (path: string): boolean => /^\/[chp]\//i.test(path);
