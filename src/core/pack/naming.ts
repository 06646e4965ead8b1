import { err, ok, type Problem, type Result } from '@/core/errors';

/** What a pattern of file names may say of somebody. */
export const NAME_PARTS = ['family', 'given', 'name', 'staff', 'title', 'team', 'office', 'card'] as const;
export type NamePart = (typeof NAME_PARTS)[number];

export const FIRST_PATTERN = '{family}-{given}';
const LONGEST_PATTERN = 200;
/** Bytes that a part of a path may have on any file system (ext4 and APFS 255 bytes, NTFS 255 UTF-16 units), with room for what a kind of file adds. */
const LONGEST_NAME = 200;

/** Device names that Windows gives to no file, whatever its ending (Microsoft, "Naming Files, Paths, and Namespaces"). */
const RESERVED = /^(?:con|prn|aux|nul|com[0-9¹²³]|lpt[0-9¹²³])(?:\.|$)/i;
/** What no file name may hold on some file system; control characters and what turns text around besides. */
const FORBIDDEN = /[<>:"/\\|?*\p{Cc}\p{Cf}\p{Zl}\p{Zp}]+/gu;

/** A pattern in which every part in braces is known; a slash in it makes folders. Error: PATTERN_UNREADABLE with the part that is not. */
export function readPattern(typed: string): Result<string> {
  const pattern = typed.trim().slice(0, LONGEST_PATTERN);
  const unknown = [...pattern.matchAll(/\{([^{}]*)\}/g)].find(
    ([, part]) => !(NAME_PARTS as readonly string[]).includes(part!),
  );
  const stray = /[{}]/.exec(pattern.replace(/\{[^{}]*\}/g, ''));
  const problem = (part: string): Problem => ({ code: 'PATTERN_UNREADABLE', part });
  if (unknown) return err(problem(unknown[0]));
  if (stray) return err(problem(stray[0]));
  return ok(pattern || FIRST_PATTERN);
}

/** Letters of one part of a path, short enough in UTF-8 and no device, hidden file or way up. */
function clean(text: string): string {
  const plain = text
    .normalize('NFC')
    .replace(FORBIDDEN, '-')
    .replace(/\s+/g, ' ')
    .replace(/-{2,}/g, '-')
    .replace(/^[-. ]+|[-. ]+$/g, '');
  let short = plain;
  while (new TextEncoder().encode(short).length > LONGEST_NAME) short = [...short].slice(0, -1).join('');
  return RESERVED.test(short) ? `_${short}` : short.replace(/[. ]+$/, '');
}

/**
 * The name of somebody's files by a pattern that was read, without an ending: folders where the pattern has slashes, none where what is said of them has.
 * What is not said leaves nothing; where nothing is left, it is `nobody`.
 */
export function stemBy(pattern: string, said: Record<NamePart, string>, nobody: string): string {
  const parts = pattern
    .split('/')
    .map((part) => clean(part.replace(/\{([^{}]+)\}/g, (_, name: NamePart) => said[name].replaceAll('/', '-'))));
  const kept = parts.filter((part) => part !== '');
  return parts.at(-1) ? kept.join('/') : [...kept, clean(nobody)].join('/');
}

/** Tells names apart that are the same where a file system knows no case: with a number at the end. */
export function apart(stem: string, used: Set<string>): string {
  const key = (text: string) => text.normalize('NFC').toLowerCase();
  let name = stem;
  for (let count = 2; used.has(key(name)); count += 1) name = `${stem}-${count}`;
  used.add(key(name));
  return name;
}
