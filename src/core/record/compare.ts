import { defaultLabel, shownValue } from './shown';
import { writtenName } from './name';
import type { Detail, KeptProperty, PersonRecord } from './record';

/** One line by which an incoming contact differs from a record. `now` is what the record says, null where it says nothing. */
export type Difference = {
  /** `name`, `photo`, `kept`, or `d:` and the id of the incoming detail. */
  key: string;
  kind: 'adds' | 'changes';
  /** What is told apart, as a card would label it; empty for what has no detail. */
  label: string;
  /** The detail of the record that would be replaced. */
  detail: string | null;
  now: string | null;
  would: string;
};

/** Letters and figures alone, so that another spelling of the same value is no difference. */
const letters = (text: string): string =>
  text
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}@+]/gu, '');

/** The same for two details of the same kind and value, however it is spelled. */
const valueOf = (detail: Detail): string =>
  `${detail.kind} ${detail.kind === 'phone' ? `${detail.number} ${detail.extension ?? ''}` : letters(shownValue(detail))}`;

/** Whether one of these says the same already, however it is spelled. */
export const isKnown = (known: Detail[], detail: Detail): boolean =>
  known.some((each) => each.kind === detail.kind && valueOf(each) === valueOf(detail));

/** Of these a person has one at a time; another value is a change and no further line. */
const SINGLE = new Set<Detail['kind']>([
  'organisation',
  'title',
  'role',
  'birthday',
  'pronouns',
  'said',
  'note',
  'category',
]);

/** What a detail is of a person: the one of its kind, or the one with these uses and this label. */
const placeOf = (detail: Detail): string =>
  SINGLE.has(detail.kind)
    ? detail.kind
    : `${detail.kind} ${'uses' in detail ? [...detail.uses].sort().join() : ''} ${detail.label}`;

/**
 * The lines by which `incoming` differs from `known`; none when it brings nothing new. A detail replaces one of the record
 * where a person has one of the kind, or where exactly one has the same uses and label and the file no longer names it.
 * A photo counts only where the record has none: two pictures cannot be told apart without decoding them.
 */
export function differencesOf(known: PersonRecord, incoming: PersonRecord, hasPhoto: boolean): Difference[] {
  const differences: Difference[] = [];
  const [now, would] = [writtenName(known.name), writtenName(incoming.name)];
  if (would && letters(now) !== letters(would))
    differences.push({ key: 'name', kind: 'changes', label: '', detail: null, now, would });
  // Each value is worked out once: a record may have hundreds of details, and a file thousands of contacts.
  const here = new Set(known.details.map(valueOf));
  const there = new Set(incoming.details.map(valueOf));
  const outdated = new Map<string, Detail[]>();
  for (const each of known.details.filter((detail) => !there.has(valueOf(detail))))
    outdated.set(placeOf(each), [...(outdated.get(placeOf(each)) ?? []), each]);
  const taken = new Set<string>();
  for (const detail of incoming.details) {
    if (here.has(valueOf(detail))) continue;
    const rivals = outdated.get(placeOf(detail)) ?? [];
    const rival = rivals.length === 1 && !taken.has(rivals[0]!.id) ? rivals[0]! : null;
    if (rival) taken.add(rival.id);
    differences.push({
      key: `d:${detail.id}`,
      kind: rival ? 'changes' : 'adds',
      label: defaultLabel(detail),
      detail: rival?.id ?? null,
      now: rival ? shownValue(rival) : null,
      would: shownValue(detail),
    });
  }
  if (hasPhoto && !known.details.some(({ kind }) => kind === 'photo'))
    differences.push({ key: 'photo', kind: 'adds', label: '', detail: null, now: null, would: '' });
  const more = furtherKept(known, incoming);
  if (more.length > 0)
    differences.push({ key: 'kept', kind: 'adds', label: '', detail: null, now: null, would: String(more.length) });
  return differences;
}

/** What the incoming contact leaves behind beyond what the record has kept. */
function furtherKept(known: PersonRecord, incoming: PersonRecord): KeptProperty[] {
  const kept = new Set(known.kept.map(({ property }) => property));
  return incoming.kept.filter(({ property }) => !kept.has(property));
}

/** The record with the chosen lines of the incoming contact. A photo is the caller's, since it has to be decoded first. */
export function withChosen(known: PersonRecord, incoming: PersonRecord, chosen: ReadonlySet<string>): PersonRecord {
  let details = known.details;
  let next = details.length;
  for (const { key, detail } of differencesOf(known, incoming, false)) {
    if (!chosen.has(key) || !key.startsWith('d:')) continue;
    const given = incoming.details.find(({ id }) => id === key.slice(2))!;
    if (detail !== null) {
      details = details.map((each) =>
        each.id === detail
          ? { ...given, id: each.id, label: given.label || each.label, preferred: each.preferred }
          : each,
      );
      continue;
    }
    do next += 1;
    while (details.some(({ id }) => id === `d${next}`));
    details = [...details, { ...given, id: `d${next}`, preferred: false }];
  }
  const more = furtherKept(known, incoming);
  return {
    ...known,
    name: chosen.has('name') ? incoming.name : known.name,
    details,
    kept: chosen.has('kept') ? [...known.kept, ...more] : known.kept,
    ...(known.uid || !incoming.uid ? {} : { uid: incoming.uid }),
  };
}

/** What is chosen until somebody chooses otherwise: what adds, so that nothing that is known is overwritten unasked. */
export const firstChoice = (differences: Difference[]): string[] =>
  differences.filter(({ kind }) => kind === 'adds').map(({ key }) => key);

/** By what a person is known again, the surest first: the same UID, mail address, number under the same name, or name at the same firm. */
export function marksOf(record: PersonRecord): string[] {
  const name = letters(writtenName(record.name));
  return [
    ...(record.uid ? [uidMark(record.uid)] : []),
    ...record.details.flatMap((detail) => (detail.kind === 'email' ? [`mail ${detail.address.toLowerCase()}`] : [])),
    ...record.details.flatMap((detail) => (detail.kind === 'phone' && name ? [`phone ${detail.number} ${name}`] : [])),
    ...record.details.flatMap((detail) =>
      detail.kind === 'organisation' && name ? [`firm ${letters(detail.name)} ${name}`] : [],
    ),
  ];
}

const uidMark = (uid: string): string => `uid ${uid.toLowerCase()}`;

/** Who is known by a mark, and by a UID of ours: that of a record, or of a card that recipients saved. */
export type Known = { byMark: (mark: string) => ReadonlySet<string>; byOwnUid: (uuid: string) => string | null };

const OWN_UID = /^urn:uuid:([0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12})$/i;

/** The UUID of a UID as we give them out, or null: `urn:uuid:` and the id of a record or card (RFC 6350 6.7.6). */
export const ownUid = (record: PersonRecord): string | null =>
  OWN_UID.exec(record.uid ?? '')?.[1]?.toLowerCase() ?? null;

/** The id of the record of the same person, or null. A mark that several records share tells none of them. */
export function knownAs(record: PersonRecord, known: Known): string | null {
  for (const mark of marksOf(record)) {
    const own = record.uid && mark === uidMark(record.uid) ? ownUid(record) : null;
    const ids = new Set(known.byMark(mark));
    const byUid = own ? known.byOwnUid(own) : null;
    if (byUid) ids.add(byUid);
    if (ids.size === 1) return [...ids][0]!;
  }
  return null;
}
