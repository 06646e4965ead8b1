import { PUBLISH } from '@/core/words';
import { shownValue, writtenName, type PersonRecord, type Picture } from '@/core/record';
import {
  detailOf,
  NAME_LINE,
  detailOn,
  labelOf,
  nameOn,
  reconcile,
  same,
  type Block,
  type ComposedLine,
  type Composition,
  type Draft,
  type Line,
  type Words,
} from '@/core/card';
import type { Look } from '@/core/look';

/**
 * A draft that says again what a revision said. Where the record says something else today, the card gets its own wording; where a
 * detail is gone from the record, a line of its own. The record stays as it is. `lost` names what cannot come back: pictures and
 * films that were erased, a photo that the record has replaced, and what of lines that are not the restorer's to word (`closed`) was
 * said otherwise: those say what they say now.
 */
export function restoredDraft(
  revision: { draft: Draft; composition: Composition; erased: string[] },
  now: { draft: Draft; record: PersonRecord; country: string; closed?: (line: Line) => boolean },
): { draft: Draft; lost: string[] } {
  const { draft, composition } = revision;
  const { record, country } = now;
  const erased = new Set(revision.erased);
  const lost: string[] = [];
  const said = new Map(composition.lines.map((line) => [line.id, line]));
  const taken = new Set([...draft.lines.map((line) => line.detail), ...record.details.map(({ id }) => id)]);
  const renamed = new Map<string, string>();
  const today = new Map(now.draft.lines.map((line) => [line.detail, line]));
  const closed = new Set<string>();
  const lines = draft.lines.flatMap((line): Line[] => {
    if (now.closed?.(line)) {
      closed.add(line.detail);
      const is = today.get(line.detail);
      if (said.has(line.detail) && !same([line.label, line.wording, line.part], [is?.label, is?.wording, is?.part]))
        lost.push(said.get(line.detail)!.label || PUBLISH.changed.line);
      return is ? [is] : [];
    }
    if (line.detail === NAME_LINE) return [restoredName(line, composition, record)];
    const was = said.get(line.detail);
    const back = restoredLine(line, was, record, country);
    if (!back || back === 'another picture') lost.push(was?.label || PUBLISH.changed.photo);
    if (back === 'another picture') return [line];
    if (!back?.own || !record.details.some(({ id }) => id === back.detail)) return back ? [back] : [];
    // Under the record's id the record's value would stand in its place.
    const id = freshId(back.detail, taken);
    renamed.set(back.detail, id);
    return [{ ...back, detail: id, own: { ...back.own, id } }];
  });
  const gone = (picture: Picture | null, title: string): Picture | null => {
    if (!picture || !erased.has(picture.hash)) return picture;
    lost.push(title);
    return null;
  };
  const blocks = draft.blocks.map((block) => withoutErased(block, erased, gone, lost));
  const opens =
    draft.opens.first === 'picture' && draft.opens.picture && !gone(draft.opens.picture, PUBLISH.changed.opens)
      ? { first: 'page' as const }
      : draft.opens;
  // Revisions from before there were looks keep none.
  const dressed = draft.look ?? now.draft.look;
  const { ground } = dressed;
  const look: Look =
    ground.kind === 'picture' && !gone(ground.picture, PUBLISH.changed.look)
      ? { ...dressed, ground: { kind: 'plain' } }
      : dressed;
  return {
    draft: renamedIn(
      {
        ...draft,
        ...{ lines: reconcile(lines, record), audience: now.draft.audience, blocks, opens, look },
        words: withWordsOf(draft.words, now.draft.words, closed),
      },
      renamed,
    ),
    lost: [...new Set(lost)],
  };
}

/** Words in further languages, those of some lines as other words have them. */
function withWordsOf(words: Words, others: Words, lines: ReadonlySet<string>): Words {
  if (lines.size === 0) return words;
  const ofLines = (key: string) => lines.has(key.split('/')[0]!);
  const entries = Object.entries(words).map(([language, said]) => {
    const kept = Object.entries(said).filter(([key]) => !ofLines(key));
    const theirs = Object.entries(others[language as keyof Words] ?? {}).filter(([key]) => ofLines(key));
    return [language, Object.fromEntries([...kept, ...theirs])];
  });
  return Object.fromEntries(entries) as Words;
}

/** An id like another one that nobody has; ids are at most 40 letters long. */
function freshId(like: string, taken: Set<string>): string {
  let id = like;
  for (let at = 2; taken.has(id); at += 1) id = `${like.slice(0, 40 - String(at).length - 1)}-${at}`;
  taken.add(id);
  return id;
}

/** What names lines by their ids, where some have got another: words in further languages, looks of lines, buttons. */
function renamedIn(draft: Draft, renamed: Map<string, string>): Draft {
  if (renamed.size === 0) return draft;
  const idOf = (id: string) => renamed.get(id) ?? id;
  const keyed = <T>(of: Record<string, T>) =>
    Object.fromEntries(Object.entries(of).map(([key, value]) => [key.replace(/^[^/]+/, idOf), value]));
  return {
    ...draft,
    words: Object.fromEntries(Object.entries(draft.words).map(([language, said]) => [language, keyed(said)])),
    look: { ...draft.look, lines: keyed(draft.look.lines) },
    blocks: draft.blocks.map((block) =>
      block.kind === 'action bar'
        ? { ...block, buttons: block.buttons.map((each) => ({ ...each, line: each.line && idOf(each.line) })) }
        : block,
    ),
  };
}

function restoredName(line: Line, { name }: Composition, record: PersonRecord): Line {
  const written = writtenName(name);
  return writtenName(nameOn(record, line)) === written ? line : { ...line, wording: written, part: null };
}

/** The line as it was, worded anew where the record has changed; null where it cannot come back at all. */
function restoredLine(
  line: Line,
  was: ComposedLine | undefined,
  record: PersonRecord,
  country: string,
): Line | 'another picture' | null {
  const detail = detailOf(line, record);
  if (!was) return detail ? line : { ...line, own: null };
  const picture = was.detail.kind === 'photo' || was.detail.kind === 'logo';
  if (!detail) return picture ? null : { ...line, own: { ...was.detail, id: line.detail }, wording: null, part: null };
  const label = labelOf(line, detail) === was.label ? line.label : was.label;
  const out = detailOn(line, detail, country);
  if (picture)
    return 'picture' in detail && 'picture' in was.detail && detail.picture !== was.detail.picture
      ? 'another picture'
      : line;
  if (out.ok && shownValue(out.value) === shownValue(was.detail)) return { ...line, label };
  const worded = { ...line, label, wording: shownValue(was.detail), part: null };
  const read = detailOn(worded, detail, country);
  // A value that cannot be typed as a wording stands on a line of its own.
  if (read.ok && shownValue(read.value) === shownValue(was.detail)) return worded;
  return { ...worded, own: { ...was.detail, id: line.detail }, wording: null };
}

function withoutErased(
  block: Block,
  erased: Set<string>,
  gone: (picture: Picture | null, title: string) => Picture | null,
  lost: string[],
): Block {
  if ('items' in block)
    return {
      ...block,
      items: block.items.map((item) => ({ ...item, picture: gone(item.picture, item.title || item.alt) })),
    };
  if (block.kind !== 'video') return block;
  return {
    ...block,
    videos: block.videos.map((video) => {
      const film = video.film && erased.has(video.film.hash) ? null : video.film;
      if (video.film && !film) lost.push(video.title || PUBLISH.changed.film);
      const captions = video.captions && erased.has(video.captions.hash) ? null : video.captions;
      return { ...video, film, captions, poster: gone(video.poster, video.title) };
    }),
  };
}
