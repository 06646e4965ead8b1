import type { Language } from '@/core/language';
import type { Block, Words } from './blocks/blocks';
import { CHANNELS, type Channel } from './channels';
import { languagesAmong } from './languages';
import { same } from './same';
import type { Draft, Line } from './schema';

/** The cells of a line that are edited and merged one by one. */
export const LINE_CELLS = ['label', 'wording', 'part', 'emphasis', 'gap', 'own', ...CHANNELS] as const;
export type LineCell = (typeof LINE_CELLS)[number];
const CARD_CELLS = ['audience', 'language', 'opens', 'look'] as const;
export type CardCell = (typeof CARD_CELLS)[number];

/** One edit of a draft, with what stood there before, so that it can be undone and held against somebody else's. */
export type Edit =
  | { edit: 'cell'; line: string; cell: LineCell; from: unknown; to: unknown }
  | { edit: 'card'; cell: CardCell; from: unknown; to: unknown }
  /** A block as a whole; null where there is none. */
  | { edit: 'block'; block: string; from: Block | null; to: Block | null }
  | { edit: 'blocks'; from: string[]; to: string[] }
  /** A text in a further language; the empty key tells whether the card is said in that language at all. */
  | { edit: 'words'; language: Language; key: string; from: string; to: string }
  | { edit: 'order'; from: string[]; to: string[] }
  | { edit: 'add'; line: Line; after: string | null }
  | { edit: 'remove'; line: Line; after: string | null };

const isChannel = (cell: LineCell): cell is Channel => (CHANNELS as readonly string[]).includes(cell);
/** What stands in a cell of a line. */
export const cellOf = (line: Line, cell: LineCell): unknown => (isChannel(cell) ? line.ticks[cell] : line[cell]);
const write = (line: Line, cell: LineCell, value: unknown): Line =>
  isChannel(cell)
    ? { ...line, ticks: { ...line.ticks, [cell]: value as boolean } }
    : ({ ...line, [cell]: value } as Line);
const ids = (lines: Line[]): string[] => lines.map((line) => line.detail);

/** The edits that lead from one draft to another. */
export function editsBetween(from: Draft, to: Draft): Edit[] {
  const edits: Edit[] = [];
  for (const cell of CARD_CELLS)
    if (!same(from[cell], to[cell])) edits.push({ edit: 'card', cell, from: from[cell], to: to[cell] });
  edits.push(...blockEdits(from.blocks, to.blocks), ...wordEdits(from.words, to.words));
  if (from.lines === to.lines) return edits;
  const before = new Map(from.lines.map((line) => [line.detail, line]));
  const after = new Map(to.lines.map((line) => [line.detail, line]));
  // From the last to the first, so that taking them back finds each neighbour there again.
  for (let at = from.lines.length - 1; at >= 0; at -= 1) {
    const line = from.lines[at]!;
    if (!after.has(line.detail))
      edits.push({ edit: 'remove', line, after: at > 0 ? from.lines[at - 1]!.detail : null });
  }
  to.lines.forEach((line, at) => {
    const old = before.get(line.detail);
    if (!old) edits.push({ edit: 'add', line, after: at > 0 ? to.lines[at - 1]!.detail : null });
    else if (old !== line)
      for (const cell of LINE_CELLS)
        if (!same(cellOf(old, cell), cellOf(line, cell)))
          edits.push({ edit: 'cell', line: line.detail, cell, from: cellOf(old, cell), to: cellOf(line, cell) });
  });
  // The order once lines have gone and come, so that it is led to exactly, and back.
  const moved = edits.filter(({ edit }) => edit === 'remove' || edit === 'add');
  const [was, is] = [ids(applyEdits(from, moved).draft.lines), ids(to.lines)];
  if (was.join() !== is.join()) edits.push({ edit: 'order', from: was, to: is });
  return edits;
}

function blockEdits(from: Block[], to: Block[]): Edit[] {
  if (from === to) return [];
  const [before, after] = [new Map(from.map((each) => [each.id, each])), new Map(to.map((each) => [each.id, each]))];
  const edits = [...new Set([...before.keys(), ...after.keys()])].flatMap((block): Edit[] => {
    const [was, is] = [before.get(block) ?? null, after.get(block) ?? null];
    return same(was, is) ? [] : [{ edit: 'block', block, from: was, to: is }];
  });
  const order = { was: from.map(({ id }) => id), is: to.map(({ id }) => id) };
  return order.was.join() === order.is.join() ? edits : [...edits, { edit: 'blocks', from: order.was, to: order.is }];
}

function wordEdits(from: Words, to: Words): Edit[] {
  if (from === to) return [];
  return languagesAmong(from, to).flatMap((language) => {
    const [was, is] = [from[language], to[language]];
    const keys = new Set(['', ...Object.keys(was ?? {}), ...Object.keys(is ?? {})]);
    return [...keys].flatMap((key): Edit[] => {
      const [before, now] = [wordAt(was, key), wordAt(is, key)];
      return before === now ? [] : [{ edit: 'words', language, key, from: before, to: now }];
    });
  });
}

const wordAt = (words: Record<string, string> | undefined, key: string): string =>
  key === '' ? (words ? 'said' : '') : (words?.[key] ?? '');

function withWord(words: Words, language: Language, key: string, text: string): Words {
  const { [language]: had, ...others } = words;
  if (key === '') return text ? { ...words, [language]: had ?? {} } : others;
  const { [key]: _old, ...kept } = had ?? {};
  return { ...words, [language]: text ? { ...kept, [key]: text } : kept };
}

/** The edits that take these back, in the order to apply them: blocks are put in order once all of them stand there again. */
export function inverseOf(edits: Edit[]): Edit[] {
  const back = [...edits].reverse().map(inverted);
  return [...back.filter(({ edit }) => edit !== 'blocks'), ...back.filter(({ edit }) => edit === 'blocks')];
}

function inverted(edit: Edit): Edit {
  if (edit.edit === 'add') return { ...edit, edit: 'remove' };
  if (edit.edit === 'remove') return { ...edit, edit: 'add' };
  return { ...edit, from: edit.to, to: edit.from } as Edit;
}

/**
 * Applies edits to a draft that may have gone on since. A cell that somebody else has changed to something else is left as
 * they have it and told in `refused`; so is an edit of a line that is gone. A move is always done, beside the neighbour that
 * it was made beside.
 */
export function applyEdits(draft: Draft, edits: Edit[]): { draft: Draft; refused: Edit[] } {
  let { lines } = draft;
  let card = draft;
  const refused: Edit[] = [];
  for (const edit of edits) {
    if (edit.edit === 'card') {
      if (same(card[edit.cell], edit.from)) card = { ...card, [edit.cell]: edit.to };
      else if (!same(card[edit.cell], edit.to)) refused.push(edit);
    } else if (edit.edit === 'cell') {
      const line = lines.find(({ detail }) => detail === edit.line);
      const now = line && cellOf(line, edit.cell);
      if (line && same(now, edit.from))
        lines = lines.map((each) => (each === line ? write(each, edit.cell, edit.to) : each));
      else if (!line || !same(now, edit.to)) refused.push(edit);
    } else if (edit.edit === 'block') {
      const now = card.blocks.find(({ id }) => id === edit.block) ?? null;
      if (same(now, edit.from)) card = { ...card, blocks: withBlock(card.blocks, edit.block, edit.to) };
      else if (!same(now, edit.to)) refused.push(edit);
    } else if (edit.edit === 'blocks')
      card = { ...card, blocks: reorder(card.blocks, edit.from, edit.to, (each) => each.id) };
    else if (edit.edit === 'words') {
      const now = wordAt(card.words[edit.language], edit.key);
      if (now === edit.from) card = { ...card, words: withWord(card.words, edit.language, edit.key, edit.to) };
      else if (now !== edit.to) refused.push(edit);
    } else if (edit.edit === 'order') lines = reorder(lines, edit.from, edit.to, (each) => each.detail);
    else if (edit.edit === 'remove') lines = lines.filter(({ detail }) => detail !== edit.line.detail);
    else if (!lines.some(({ detail }) => detail === edit.line.detail)) {
      const at = lines.findIndex(({ detail }) => detail === edit.after) + 1;
      lines = [...lines.slice(0, at), edit.line, ...lines.slice(at)];
    }
  }
  return { draft: lines === card.lines ? card : { ...card, lines }, refused };
}

function withBlock(blocks: Block[], id: string, block: Block | null): Block[] {
  if (!block) return blocks.filter((each) => each.id !== id);
  return blocks.some((each) => each.id === id)
    ? blocks.map((each) => (each.id === id ? block : each))
    : [...blocks, block];
}

/** Brings things into the order `to`; where others have come or gone meanwhile, only what was moved is moved. */
function reorder<T>(things: T[], from: string[], to: string[], idOf: (thing: T) => string): T[] {
  const byId = new Map(things.map((thing) => [idOf(thing), thing]));
  let order = things.map(idOf);
  if (to.length === order.length && to.every((id) => byId.has(id))) return to.map((id) => byId.get(id)!);
  const stayed = new Set(commonSubsequence(from, to));
  to.forEach((id, at) => {
    if (stayed.has(id) || !byId.has(id)) return;
    order = order.filter((other) => other !== id);
    const neighbour = to.slice(0, at).findLast((other) => order.includes(other));
    order.splice(neighbour === undefined ? 0 : order.indexOf(neighbour) + 1, 0, id);
  });
  return order.map((id) => byId.get(id)!);
}

/** The longest common subsequence of two orders of the same ids: those that did not move. */
function commonSubsequence(a: string[], b: string[]): string[] {
  const at = new Map(b.map((id, index) => [id, index]));
  const places = a.flatMap((id) => at.get(id) ?? []);
  // The longest increasing run of places; lists are at most some hundred long.
  const longest = places.map(() => 1);
  const previous = places.map(() => -1);
  for (let i = 0; i < places.length; i += 1)
    for (let j = 0; j < i; j += 1)
      if (places[j]! < places[i]! && longest[j]! + 1 > longest[i]!) {
        longest[i] = longest[j]! + 1;
        previous[i] = j;
      }
  const chosen: string[] = [];
  for (let i = longest.indexOf(Math.max(0, ...longest)); i >= 0; i = previous[i]!) chosen.unshift(b[places[i]!]!);
  return chosen;
}
