import { readAddress, readCode, readLasting, readPreview } from '@/core/address';
import { readLanguage } from '@/core/language';
import { LIMITS } from '@/core/limits';
import type { Asked } from './request';

const PATH = /^\/([chp])\/([^/.]{1,100})(\.vcf|\/[^/]{1,100})?\/?$/i;

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

type What = Asked['what'];
const lower = (text: string | undefined): string => (text ?? '').toLowerCase();

/** What the last part of a public path asks for. Pictures carry in their name what they depend on, so that a copy is good for ever. */
const PARTS: [RegExp, (found: RegExpExecArray) => What][] = [
  [/^$/, () => ({ output: 'page' })],
  [/^\.vcf$/, () => ({ output: 'file' })],
  [/^\/tap$/, () => ({ output: 'tap' })],
  [/^\/reply$/, () => ({ output: 'reply' })],
  [/^\/reply-([a-z]{2})\.js$/, ([, language]) => ({ output: 'reply script', language: readLanguage(language!) ?? '' })],
  [/^\/manifest\.webmanifest$/, () => ({ output: 'manifest' })],
  [/^\/worker\.js$/, () => ({ output: 'worker' })],
  [/^\/photo-([0-9a-f]{64})\.avif$/, ([, hash]) => ({ output: 'light photo', hash: lower(hash), broad: false })],
  [/^\/photo-([0-9a-f]{64})-broad\.avif$/, ([, hash]) => ({ output: 'light photo', hash: lower(hash), broad: true })],
  [/^\/photo-([0-9a-f]{64})\.jpg$/, ([, hash]) => ({ output: 'photo', hash: lower(hash) })],
  [/^\/logo-([0-9a-f]{64})\.png$/, ([, hash]) => ({ output: 'logo', hash: lower(hash) })],
  [/^\/file-([0-9a-f]{64})$/, ([, hash]) => ({ output: 'block file', hash: lower(hash) })],
  [/^\/file-([0-9a-f]{64})\.webp$/, ([, hash]) => ({ output: 'light file', hash: lower(hash) })],
  [/^\/signed-([0-9a-f]{64})\.png$/, ([, hash]) => ({ output: 'signed logo', hash: lower(hash) })],
  [/^\/map-([a-z0-9-]{1,40})$/, ([, line]) => ({ output: 'map', line: lower(line) })],
  [/^\/code\.svg$/, () => ({ output: 'code' })],
  [
    /^\/signature(-reply)?\.(html|txt)$/,
    ([, reply, form]) => ({ output: 'signature', variant: reply ? 'reply' : 'message', form: form as 'html' | 'txt' }),
  ],
  [/^\/strip-([a-z0-9-]{1,40})$/, ([, id]) => ({ output: 'strip', id: id! })],
  [/^\/icon-([0-9a-f]{16})\.png$/, ([, key]) => ({ output: 'icon', key: lower(key) })],
  [
    /^\/(link|picture)-([a-z0-9-]{2,35})-([0-9a-f]{16})\.(jpg|webp)$/,
    ([, face, language, key, format]) => ({
      output: 'drawn',
      face: face as 'link' | 'picture',
      language: readLanguage(language!) ?? '',
      key: key!,
      format: format === 'webp' ? 'webp' : 'jpeg',
    }),
  ],
];

/** Reads a public path: `/c/NAME`, `/c/NAME.vcf`, `/c/NAME/tap` and the other {@link PARTS}, and the same under `/h/CODE` and `/p/PREVIEW`. */
function readPath(path: string): Asked | null {
  const found = PATH.exec(path);
  if (!found) return null;
  const [, room, name, part] = found as unknown as [string, string, string, string?];
  const what = whatOf(lower(part));
  if (!what) return null;
  if (room.toLowerCase() === 'p') {
    const preview = readPreview(name);
    return preview && what.output !== 'tap' ? { key: { preview }, what, base: `/p/${preview}` } : null;
  }
  if (room.toLowerCase() === 'h') {
    const code = readCode(name);
    return code ? { key: { code }, what, base: `/h/${code}` } : null;
  }
  const address = readAddress(name);
  return address.ok ? { key: { address: address.value }, what, base: `/c/${address.value}` } : null;
}

function whatOf(part: string): What | null {
  for (const [pattern, read] of PARTS) {
    const found = pattern.exec(part);
    if (found) return read(found);
  }
  return null;
}

const LASTING = /^\/r\/([0-9a-z-]{24,30})(?:\/(card|held|views|erase|address))?\/?$/i;

/** What is asked for by a lasting link: the card, or something about what is held. */
export type AskedLasting = { token: string; what: 'page' | 'card' | 'held' | 'views' | 'erase' | 'address' };

export const isLasting = (path: string): boolean => /^\/r\//i.test(path);

/** Reads `/r/TOKEN` and what lies below it. */
export function readLastingPath(path: string): AskedLasting | null {
  const found = LASTING.exec(path);
  const token = found && readLasting(found[1]!);
  return token ? { token, what: (found[2]?.toLowerCase() ?? 'page') as AskedLasting['what'] } : null;
}

/** Whether a path belongs to recipients and not to the studio. */
export const isPublicPath = (path: string): boolean => /^\/[chpr]\//i.test(path);

/** So long the body of a POST to a recipients' address may be, in bytes: a tap names a line, a reply may bring a contact file. */
export const longestBody = (path: string): number =>
  /\/reply\/?$/i.test(path) ? LIMITS.replyFileBytes : /^\/r\//i.test(path) ? LIMITS.replyBytes : 200;
