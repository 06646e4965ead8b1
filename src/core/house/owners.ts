import { reachOf, type Role } from '@/core/access';
import type { Problem } from '@/core/errors';
import { detailOf, NAME_LINE, same, type Line, type Words } from '@/core/card';
import type { Detail, PersonRecord } from '@/core/record';
import type { Ownable, Owned } from './owned-kinds';
import type { HouseStyle } from './style';

/** The kind under which a detail belongs to the organisation; null where it is the holder's. */
export const ownedAs = (detail: Detail, owned: Owned): Ownable | null =>
  owned[detail.kind] === undefined || ('uses' in detail && !detail.uses.includes('work')) ? null : detail.kind;

/** The same of what a line of a card shows. */
export function lineOwnedAs(line: Line, record: PersonRecord, owned: Owned): Ownable | null {
  if (line.detail === NAME_LINE) return owned.name === undefined ? null : 'name';
  const detail = detailOf(line, record);
  return detail && ownedAs(detail, owned);
}

/** What of an edit is not its editor's to do. */
export type RefusedEdit = {
  kind: Ownable;
  what: 'value' | 'label' | 'wording' | 'part' | 'own line' | 'further language' | 'ticks' | 'order';
};

/** A record, and what a card of it says. */
export type Held = { record: PersonRecord; card?: { lines: readonly Line[]; words: Words } };

/** What a member finds closed: kinds with their reasons, nothing for those who write what is the organisation's. */
export const ownedFor = (role: Role, house: HouseStyle | null): Owned =>
  reachOf(role, 'owned.write') === 'none' ? (house?.owned ?? {}) : {};

/**
 * Holds an edit of a record, a card, or both against who owns what. Of kinds that are the organisation's a holder changes neither value
 * nor label, wording or part, adds no line of the card's own, and says nothing else in further languages; going back to what the record
 * says is always theirs. Ticks and order are theirs too, unless the house style locks those of the organisation's lines.
 */
export const judgeEdits = (before: Held, after: Held, house: HouseStyle | null, role: Role): RefusedEdit[] =>
  refusedOf(before, after, ownedFor(role, house), house?.locks ?? {});

/** The same for whoever knows what is closed to them, as screens do. */
export function refusedOf(before: Held, after: Held, owned: Owned, locks: HouseStyle['locks']): RefusedEdit[] {
  if (Object.keys(owned).length === 0) return [];
  const refused = judgeRecord(before.record, after.record, owned);
  if (before.card && after.card) {
    const lines = new Map(before.card.lines.map((line) => [line.detail, line]));
    const ours = after.card.lines.flatMap((line) => {
      const kind = lineOwnedAs(line, after.record, owned);
      return kind ? [{ kind, line, was: lines.get(line.detail) }] : [];
    });
    for (const { kind, line, was } of ours) {
      if (line.own && !same(line.own, was?.own ?? null)) refused.push({ kind, what: 'own line' });
      for (const what of ['label', 'wording', 'part'] as const)
        if (line[what] !== null && line[what] !== (was?.[what] ?? null)) refused.push({ kind, what });
      if (saysElse(line.detail, before.card.words, after.card.words)) refused.push({ kind, what: 'further language' });
      if (locks.ticks !== undefined && was && !same(was.ticks, line.ticks)) refused.push({ kind, what: 'ticks' });
    }
    const stayed = ours.flatMap(({ line, was }) => (was ? [line.detail] : []));
    const order = before.card.lines.flatMap(({ detail }) => (stayed.includes(detail) ? [detail] : []));
    const moved = ours.find(({ line }, at) => line.detail !== order[at]);
    if (locks.order !== undefined && moved && stayed.length === ours.length && !same(stayed, order))
      refused.push({ kind: moved.kind, what: 'order' });
  }
  return refused;
}

/** The first thing that is refused, as a problem with its reason: OWNED, or LOCKED for ticks and order; null where nothing is. */
export function ownersRefuse(before: Held, after: Held, owned: Owned, locks: HouseStyle['locks']): Problem | null {
  const [first] = refusedOf(before, after, owned, locks);
  if (!first) return null;
  const { kind, what } = first;
  return what === 'ticks' || what === 'order'
    ? { code: 'LOCKED', part: what, reason: locks[what] ?? '' }
    : { code: 'OWNED', kind, reason: owned[kind] ?? '' };
}

function judgeRecord(before: PersonRecord, after: PersonRecord, owned: Owned): RefusedEdit[] {
  const refused: RefusedEdit[] = [];
  if (owned.name !== undefined && !same(before.name, after.name)) refused.push({ kind: 'name', what: 'value' });
  const ours = ({ details }: PersonRecord) =>
    new Map(details.filter((each) => ownedAs(each, owned)).map((detail) => [detail.id, detail]));
  const [was, is] = [ours(before), ours(after)];
  for (const id of new Set([...was.keys(), ...is.keys()])) {
    const [one, other] = [was.get(id), is.get(id)];
    if (!one || !other || !same(one, other)) refused.push({ kind: ownedAs((one ?? other)!, owned)!, what: 'value' });
  }
  return refused;
}

/** Whether something is said of a line in a further language that was not said before. */
const saysElse = (line: string, before: Words, after: Words): boolean =>
  Object.entries(after).some(([language, said]) =>
    Object.entries(said).some(
      ([key, text]) => key.startsWith(`${line}/`) && text !== '' && text !== before[language as keyof Words]?.[key],
    ),
  );
