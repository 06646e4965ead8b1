import fc from 'fast-check';
import { composeDraft, LinesSchema, NAME_LINE, type ComposedLine, type Draft, type Line } from '@/core/card';
import { ROLES, reachOf } from '@/core/access';
import { RecordSchema, shownValue, writtenName, type Detail, type PersonRecord } from '@/core/record';
import { anyCard } from '../../../tests/fixtures/any-card';
import { judgeEdits, NO_HOUSE, OWNABLE, type HouseStyle, type Ownable } from './index';

/** What a holder may try, on the record or on the card, at the line `at`. */
const TRIES: Record<string, (of: { record: PersonRecord; draft: Draft }, at: number) => void> = {
  'another name': ({ record }) => (record.name = { ...record.name, family: 'Executive', written: '' }),
  'a value': ({ record }, at) => {
    const detail = record.details[at % record.details.length]! as { text?: string; name?: string; number?: string };
    for (const key of ['text', 'name'] as const) if (key in detail) detail[key] = 'Chief executive';
    if ('number' in detail) detail.number = '+442079460999';
  },
  'a label': ({ record }, at) => (record.details[at % record.details.length]!.label = 'Chief executive'),
  'what is private for work': ({ record }, at) => {
    const detail = record.details[at % record.details.length]!;
    if ('uses' in detail) detail.uses = ['work'];
  },
  'another kind': ({ record }, at) => {
    const { id } = record.details[at % record.details.length]!;
    record.details[at % record.details.length] = { kind: 'title', id, label: '', preferred: false, text: 'Chief' };
  },
  'the value in a further language': ({ record }, at) => {
    record.details[at % record.details.length]!.further = { de: 'Vorstand' };
  },
  'one thing gone': ({ record }, at) => void record.details.splice(at % record.details.length, 1),
  'a label on the card': ({ draft }, at) => (draft.lines[at % draft.lines.length]!.label = 'Chief executive'),
  'a wording': ({ draft }, at) => (draft.lines[at % draft.lines.length]!.wording = 'Chief executive'),
  'the name in other words': ({ draft }) => {
    for (const line of draft.lines) if (line.detail === NAME_LINE) line.wording = 'The Chief';
  },
  initials: ({ draft }) => {
    for (const line of draft.lines) if (line.detail === NAME_LINE) line.part = 'initials' as Line['part'];
  },
  'a line of the card’s own': ({ draft, record }, at) => {
    const kinds = record.details.filter(({ kind }) => kind !== 'photo' && kind !== 'logo');
    const like = kinds[at % kinds.length];
    if (!like) return;
    const own = { ...like, id: 'mine', label: 'Chief' } as Detail;
    draft.lines.push({ ...draft.lines.at(-1)!, detail: 'mine', label: null, wording: null, part: null, own });
  },
  'words in a further language': ({ draft }, at) => {
    draft.words = { fr: { [`${draft.lines[at % draft.lines.length]!.detail}/wording`]: 'Directrice' } };
  },
};

const said = (composition: { name: PersonRecord['name']; lines: ComposedLine[] }, kinds: Ownable[]) => [
  kinds.includes('name') ? writtenName(composition.name) : '',
  ...composition.lines.flatMap(({ label, detail }) =>
    kinds.includes(detail.kind) && (!('uses' in detail) || detail.uses.includes('work'))
      ? [`${detail.kind} ${label} ${shownValue(detail)}`]
      : [],
  ),
];

test('whatever a holder tries and is not refused, cards say of the organisation’s kinds what they would have said (property)', () => {
  let refusedAny = 0;
  fc.assert(
    fc.property(
      anyCard,
      fc.subarray([...OWNABLE]),
      fc.array(fc.tuple(fc.constantFrom(...Object.keys(TRIES)), fc.nat()), { minLength: 1, maxLength: 3 }),
      ({ record, draft }, kinds, tries) => {
        const house: HouseStyle = { ...NO_HOUSE, owned: Object.fromEntries(kinds.map((kind) => [kind, 'The sheet'])) };
        const next = structuredClone({ record, draft });
        for (const [what, at] of tries) if (next.record.details.length > 0) TRIES[what]!(next, at);
        fc.pre(RecordSchema.safeParse(next.record).success && LinesSchema.safeParse(next.draft.lines).success);
        const refused = judgeEdits({ record, card: draft }, { record: next.record, card: next.draft }, house, 'holder');
        if (refused.length > 0) {
          refusedAny += 1;
          for (const { kind } of refused) expect(kinds).toContain(kind);
          return;
        }
        const [was, is] = [composeDraft(record, draft, 'GB'), composeDraft(next.record, next.draft, 'GB')];
        fc.pre(was.ok && is.ok);
        if (!was.ok || !is.ok) return;
        expect(said(is.value, kinds)).toEqual(said(was.value, kinds));
        for (const each of Object.values(is.value.further)) expect(said(each, kinds)).toEqual(said(was.value, kinds));
      },
    ),
    { numRuns: 400 },
  );
  // A judge that lets everything by, or nothing, would have proven nothing.
  expect(refusedAny).toBeGreaterThan(40);
});

test('whoever writes what is the organisation’s is refused nothing; ticks and order are the holder’s until they are locked', () => {
  fc.assert(
    fc.property(anyCard, fc.constantFrom(...ROLES), fc.nat(), fc.boolean(), ({ record, draft }, role, at, locked) => {
      const kinds = Object.fromEntries(OWNABLE.map((kind) => [kind, 'The sheet']));
      const locks: HouseStyle['locks'] = locked ? { ticks: 'As the law asks', order: 'One order for all' } : {};
      const house: HouseStyle = { ...NO_HOUSE, owned: kinds, locks };
      const judged = (next: typeof draft, person = record) =>
        judgeEdits({ record, card: draft }, { record: person, card: next }, house, role).map(({ what }) => what);
      const free = reachOf(role, 'owned.write') === 'all';
      const renamed = { ...record, name: { ...record.name, given: 'Other' } };
      expect(judged(draft, renamed)).toEqual(free ? [] : ['value']);
      const line = draft.lines[1 + (at % (draft.lines.length - 1))]!;
      const toggled = { ...line, ticks: { ...line.ticks, page: !line.ticks.page } };
      const isOurs = (of: Line) => {
        const detail = record.details.find(({ id }) => id === of.detail);
        return !!detail && (!('uses' in detail) || detail.uses.includes('work'));
      };
      const ticked = { ...draft, lines: draft.lines.map((each) => (each === line ? toggled : each)) };
      expect(judged(ticked)).toEqual(!free && locked && isOurs(line) ? ['ticks'] : []);
      const ours = draft.lines.filter(isOurs);
      const [first, last] = [ours[0], ours.at(-1)];
      fc.pre(first !== undefined && first !== last);
      const turned = draft.lines.map((each) => (each === first ? last! : each === last ? first! : each));
      expect(judged({ ...draft, lines: turned })).toEqual(!free && locked ? ['order'] : []);
    }),
  );
});
