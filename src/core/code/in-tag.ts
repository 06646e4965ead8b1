import type { ComposedLine, Composition } from '@/core/card';
import { err, ok, type Result } from '@/core/errors';
import { tagMemory, type InTag } from '@/core/ndef';
import { shownValue } from '@/core/record';
import { frozenCosts, writeFrozenContact } from '@/core/vcard';
import { contentText, type CodeLink, type Content } from './contents';

/** What a tag can make a phone do. */
export const TAG_CONTENTS = ['card', 'save', 'contact', 'address', 'call', 'write', 'text', 'link', 'words'] as const;
export type TagContent = Extract<Content, { what: (typeof TAG_CONTENTS)[number] }>;

export const isTagContent = (content: Content): content is TagContent =>
  (TAG_CONTENTS as readonly string[]).includes(content.what);

/**
 * What stands in a tag: first of all a link, since some phones act on nothing else. `link` is where the hand-out's code leads. Errors: those of
 * {@link contentText}.
 */
function inTag(content: TagContent, composition: Composition, { link }: CodeLink): Result<InTag> {
  if (content.what === 'card') return ok({ link });
  if (content.what === 'save') return ok({ link: `${link}.vcf` });
  if (content.what === 'contact') return ok({ link, contact: writeFrozenContact(composition, 'tag') });
  const text = contentText(content, composition, { link });
  if (!text.ok) return text;
  if (content.what === 'words')
    return ok({ link, words: { text: text.value, language: composition.language ?? 'en' } });
  return ok({ link: text.value });
}

/** The memory of a tag with a content, in bytes as they lie there. Errors: those of {@link inTag}. */
export function tagOf(content: TagContent, composition: Composition, of: CodeLink): Result<Uint8Array> {
  const inside = inTag(content, composition, of);
  return inside.ok ? ok(tagMemory(inside.value)) : inside;
}

const titleOf = ({ label, detail }: ComposedLine): string => label || shownValue(detail);

/**
 * The lines, by their titles, without which a contact fits a tag with so much room in bytes: the one that is just large enough, else the last ones. Empty where
 * it fits, null where it does not even without any.
 */
export function leaveOutFor(composition: Composition, of: CodeLink, room: number): string[] | null {
  const bytes = (without: ReadonlySet<string>) => {
    const lines = composition.lines.filter(({ id }) => !without.has(id));
    return tagMemory({ link: of.link, contact: writeFrozenContact({ ...composition, lines }, 'tag') }).length;
  };
  if (bytes(new Set()) <= room) return [];
  const ticked = composition.lines.filter(({ on }) => on.includes('tag'));
  const costs = frozenCosts(composition, 'tag').lines;
  const single = ticked
    .filter(({ id }) => bytes(new Set([id])) <= room)
    .sort((a, b) => costs.get(a.id)! - costs.get(b.id)!)[0];
  if (single) return [titleOf(single)];
  const left = new Set<string>();
  for (const { id } of [...ticked].reverse()) {
    left.add(id);
    if (bytes(left) <= room) return ticked.filter((line) => left.has(line.id)).map(titleOf);
  }
  return null;
}

/** The memory of a live tag, whatever its card says: it opens the card, or gives its contact file. */
export const liveTag = ({ what }: Pick<Content, 'what'>, link: string): Uint8Array =>
  tagMemory({ link: what === 'save' ? `${link}.vcf` : link });

/** A content of a tag that was made before that was asked. */
export const tagContent = (content: Content | null, frozen: boolean): TagContent =>
  content !== null && isTagContent(content)
    ? content
    : frozen
      ? { what: 'contact', form: 'vCard 3.0', link: true }
      : { what: 'card' };

/** Refuses a content that no tag has. Error: INPUT. */
export const readTagContent = (content: Content): Result<TagContent> =>
  isTagContent(content) ? ok(content) : err({ code: 'INPUT', field: 'content' });
