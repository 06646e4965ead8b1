import type { Composition, Block } from '@/core/card';
import { saidIn } from '@/core/card';
import type { Language } from '@/core/language';
import { shownValue, writtenName, type Detail } from '@/core/record';

/** A text for profile pages elsewhere, of at most so many characters. */
export type ProfileText = { limit: number; text: string };

/** What profile pages take, in characters: a title, a line below it, a summary, a paragraph (common practice, no published source). */
export const PROFILE_LIMITS = { title: 60, texts: [80, 160, 300] } as const;

/** Kinds that say what somebody is and does; how they are reached stays with the card, since copies kept elsewhere grow old. */
const SAYS: Detail['kind'][] = ['title', 'role', 'organisation', 'credential', 'licence', 'language'];

const about = (blocks: Block[]): string[] =>
  blocks.flatMap((block) => (block.kind === 'about' && block.on ? sentences(block.text) : []));

/** A text by its sentences; a stop within a number or an abbreviation of one letter ends none. */
const sentences = (text: string): string[] =>
  text
    .split(/\n+|(?<=[^\s.]{2}[.!?…。！？])\s+/u)
    .map((each) => each.replace(/\s+/g, ' ').trim())
    .filter(Boolean);

const same = (text: string): string =>
  text
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
const length = (text: string): number => [...text].length;

/**
 * A title and texts of three lengths for profile pages elsewhere, of what stands on the page and nothing else. No statement stands in two of them, so that
 * a profile that shows all of them repeats nothing; one that is too long for its place goes to the next, and what fits nowhere is left out whole.
 */
export function profileTexts(whole: Composition, language: Language): { title: ProfileText; texts: ProfileText[] } {
  const composition = saidIn(whole, language);
  const onPage = composition.lines.filter(({ on }) => on.includes('page'));
  const of = (...kinds: Detail['kind'][]) =>
    kinds.flatMap((kind) =>
      onPage.filter(({ detail }) => detail.kind === kind).map(({ detail }) => shownValue(detail)),
    );
  const name = writtenName(composition.name);
  const [firm] = of('organisation');
  const titled = [`${name}, ${firm}`, name].find((each) => firm && length(each) <= PROFILE_LIMITS.title) ?? name;
  const title = [...titled].slice(0, PROFILE_LIMITS.title).join('');
  const said = new Set([same(name), ...(title === name ? [] : [same(firm ?? '')])]);
  const statements = [...of(...SAYS), ...about(composition.blocks)].filter((each) => {
    const key = same(each);
    if (!key || said.has(key)) return false;
    said.add(key);
    return true;
  });
  const texts = PROFILE_LIMITS.texts.map((limit): ProfileText => {
    let text = '';
    while (statements.length > 0) {
      const [next] = statements as [string];
      const joined = text ? `${text}${/[.!?…。！？]$/u.test(text) ? ' ' : ' · '}${next}` : next;
      if (length(joined) > limit) {
        // What is longer than the longest text has no place at all.
        if (length(next) > PROFILE_LIMITS.texts.at(-1)!) {
          statements.shift();
          continue;
        }
        break;
      }
      text = joined;
      statements.shift();
    }
    return { limit, text };
  });
  return { title: { limit: PROFILE_LIMITS.title, text: title }, texts };
}
