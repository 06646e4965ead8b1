import { linesOn, saidIn, type Block, type Composition } from '@/core/card';
import { layoutOf, RANGES, type FamilyName, type Look } from '@/core/look';
import { say } from '@/core/messages';
import type { Language } from '@/core/language';
import { areasOf } from './card-areas';
import { onBar } from './blocks';
import { FILLING_PHOTO, STANDING_PHOTO } from './sizes';

/** A broad phone in CSS pixels: a preview has at least the pixels of its box on all narrower ones, so that it is the largest paint. */
const BROADEST_PHONE = 430;
/** Pictures of a block that are on the first screen at once, and in all. */
const MOST_LEADING = 2;
const MOST_PICTURES = 3;

/** What of a first screen comes with the page itself: its largest pictures, small, and the letters of its largest words. */
export type FirstScreenWants = {
  /** `name` is `photo` or the hash of a block's picture; the size is that of its box in CSS pixels. */
  pictures: { name: string; width: number; height: number }[];
  family: FamilyName;
  letters: string;
};

/** What the first screen of a card's page wants to bring along, by its layout's narrow map. */
export function firstScreenOf(whole: Composition, language: Language, shows: { photo: boolean }): FirstScreenWants {
  const composition = saidIn(whole, language);
  const { look, blocks, opens } = composition;
  const areas = areasOf(composition);
  const rows = layoutOf(look.layout).map.narrow.rows;
  const rowOf = (area: string) => rows.findIndex((row) => row.split(' ').includes(area));
  const leading = areas.lead && rowOf('lead') < rowOf('acts') ? leadingPictures(areas.lead) : [];
  const face = shows.photo && areas.photo ? [{ name: 'photo', ...photoBox(look, rows) }] : [];
  // Below a small face the pictures of a block may be the largest that is seen.
  const others =
    layoutOf(look.layout).photo === 'stands' ? [...areas.before, ...areas.after].flatMap(leadingPictures) : [];
  // What opens first fills the screen by itself. Where there is not room for all, the last ones go without.
  const pictures = opens.first === 'page' ? [...leading, ...face, ...others].slice(0, MOST_PICTURES) : [];
  const bar = blocks.find((each) => each.kind === 'action bar');
  const lines = linesOn(composition, 'page');
  const usual = (['save', 'call', 'write'] as const).map((word) => say(word, language));
  const buttons = bar ? onBar(bar, lines, blocks, language).map(({ said }) => said) : usual;
  return { pictures, ...typeOf(look, areas.name, `${areas.name}${buttons.join('')}`) };
}

/** The photo's box on the broadest phone. */
function photoBox(look: Look, rows: readonly string[]): { width: number; height: number } {
  const { share } = look.photo;
  if (layoutOf(look.layout).photo === 'stands') return { width: STANDING_PHOTO[share], height: STANDING_PHOTO[share] };
  const whole = rows.includes('photo');
  if (whole) return { width: BROADEST_PHONE, height: Math.ceil(BROADEST_PHONE / FILLING_PHOTO[share]) };
  // Beside the name it takes half of the width and what height the words need.
  return { width: BROADEST_PHONE / 2, height: 270 };
}

/** The first pictures of a block, in the boxes that the blocks' style sheet gives them. */
function leadingPictures(block: Block): FirstScreenWants['pictures'] {
  if (block.kind === 'gallery') {
    const [first] = block.items;
    return first?.picture ? [{ name: first.picture.hash, width: 328, height: 246 }] : [];
  }
  if (block.kind === 'products')
    return block.items
      .slice(0, MOST_LEADING)
      .flatMap(({ picture }) => (picture ? [{ name: picture.hash, width: 192, height: 192 }] : []));
  if (block.kind !== 'video') return [];
  const [first] = block.videos;
  const inner = BROADEST_PHONE - 40;
  return first?.poster ? [{ name: first.poster.hash, width: inner, height: Math.ceil((inner * 9) / 16) }] : [];
}

/** The letters that one family has of the words in its type, each once: the title family, or the Arabic one where the name is. */
function typeOf({ title }: Look, name: string, words: string): Pick<FirstScreenWants, 'family' | 'letters'> {
  return lettersIn(name, [RANGES.arabic])
    ? { family: 'vazirmatn', letters: lettersIn(words, [RANGES.arabic]) }
    : { family: title, letters: lettersIn(words, [RANGES.latin, RANGES['latin-ext']]) };
}

/** The letters of a text that lie in ranges of code points as CSS writes them. */
function lettersIn(text: string, ranges: string[]): string {
  const spans = ranges
    .flatMap((range) => range.split(','))
    .map((span) =>
      span
        .replace('U+', '')
        .split('-')
        .map((end) => Number.parseInt(end, 16)),
    )
    .map(([from, to]) => [from!, to ?? from!] as const);
  const has = (point: number) => spans.some(([from, to]) => from <= point && point <= to);
  return [...new Set(text)]
    .filter((letter) => has(letter.codePointAt(0)!))
    .sort()
    .join('');
}
