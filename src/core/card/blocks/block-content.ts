import { purposeOf, type Detail } from '@/core/record';
import type { BarAct, BlockKind } from './block-kinds';
import { TAKES } from './block-kinds';
import type { Block, Item, PageParts } from './blocks';
import type { ComposedLine } from '../schema';

/** Whether an item has anything to show. */
const hasContent = ({ picture, title, text, url }: Item): boolean => picture !== null || !!title || !!text || !!url;

/** The kinds of detail whose lines a block lays out. */
export const takenBy = (kind: BlockKind): readonly Detail['kind'][] =>
  kind in TAKES ? TAKES[kind as keyof typeof TAKES] : [];

/** The lines of the page that a block lays out, in their order. Offices take their hours along. */
export const linesOf = (kind: BlockKind, lines: ComposedLine[]): ComposedLine[] => {
  const kinds = takenBy(kind);
  return lines.filter((line) => line.on.includes('page') && kinds.includes(line.detail.kind));
};

/** Whether a detail can be what a button does: a number to ring, one that takes texts, an address, a link of that purpose. */
export function fits(act: BarAct, detail: Detail): boolean {
  if (act === 'call') return detail.kind === 'phone' && !detail.uses.some((use) => use === 'fax' || use === 'pager');
  if (act === 'text') return detail.kind === 'phone' && detail.uses.includes('text');
  if (act === 'mail') return detail.kind === 'email';
  if (act === 'map') return detail.kind === 'address';
  return (act === 'chat' || act === 'booking' || act === 'open') && detail.kind === 'link';
}

/** The line that a button of the action bar stands for: the one chosen, else the first that fits; null where none goes out. */
export function lineOfButton(button: { act: BarAct; line: string | null }, lines: ComposedLine[]): ComposedLine | null {
  const fitting = lines.filter((line) => line.on.includes('page') && fits(button.act, line.detail));
  if (button.line) return fitting.find(({ id }) => id === button.line) ?? null;
  const meant = ({ detail }: ComposedLine) =>
    detail.kind !== 'link' || button.act === 'open' || purposeOf(detail) === button.act;
  return fitting.find(meant) ?? null;
}

/**
 * The blocks that go out: switched on and not empty, without their empty items. An empty block leaves no gap and no empty
 * heading.
 */
export function shownBlocks(blocks: Block[], lines: ComposedLine[]): Block[] {
  return blocks.flatMap((block): Block[] => {
    if (!block.on) return [];
    if (block.kind === 'about') return block.text.trim() ? [block] : [];
    if (block.kind === 'video') {
      const videos = block.videos.filter(({ film, player }) => film !== null || player !== '');
      return videos.length > 0 ? [{ ...block, videos }] : [];
    }
    if (block.kind === 'action bar' || block.kind === 'reply form') return [block];
    const taken = linesOf(block.kind, lines).length > 0;
    if (!('items' in block)) return taken ? [block] : [];
    const items = block.items.filter(hasContent);
    return items.length > 0 || taken ? [{ ...block, items }] : [];
  });
}

/** The hashes of all pictures and files that blocks and the opening picture ask for. */
export function filesOf({ blocks, opens, look }: Pick<PageParts, 'blocks' | 'opens' | 'look'>): Set<string> {
  const hashes = new Set<string>();
  const add = (file: { hash: string } | null | undefined) => file && hashes.add(file.hash);
  if (opens.first === 'picture') add(opens.picture);
  if (look.ground.kind === 'picture') add(look.ground.picture);
  for (const block of blocks) {
    if ('items' in block) block.items.forEach(({ picture }) => add(picture));
    if (block.kind === 'video')
      for (const { film, poster, captions } of block.videos) [film, poster, captions].forEach(add);
  }
  return hashes;
}
