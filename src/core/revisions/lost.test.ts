import { composeDraft, lineOf, NO_PARTS, NAME_LINE, type Block, type Draft, type Line } from '@/core/card';
import { FIRST_LOOK } from '@/core/look';
import { RecordSchema, type PersonRecord } from '@/core/record';
import { restoredDraft } from './restore';

/* What of a revision cannot come back is named, and nothing else is missing (common practice, no published source). */
const ON = {
  page: true,
  file: true,
  code: false,
  tag: false,
  signature: false,
  print: false,
  backdrop: false,
  pass: false,
};
const PICTURE = (hash: string) => ({ hash: hash.repeat(64).slice(0, 64), width: 640, height: 480 });
const text = (kind: 'title' | 'note', id: string, said: string) => ({
  kind,
  id,
  label: '',
  preferred: false,
  text: said,
});
const recordOf = (...details: object[]): PersonRecord =>
  RecordSchema.parse({ name: { given: 'Ilse', family: 'Varrow' }, details });
const draftOf = (lines: Line[], more: Partial<Draft> = {}): Draft => ({
  ...NO_PARTS,
  audience: 'Work',
  language: null,
  lines: [lineOf(NAME_LINE, ON), ...lines],
  ...more,
});
const composed = (record: PersonRecord, draft: Draft) => {
  const made = composeDraft(record, draft, 'GB');
  if (!made.ok) throw new Error(made.problem.code);
  return made.value;
};
const restored = (
  { was, draft, erased = [] }: { was: PersonRecord; draft: Draft; erased?: string[] },
  now: { record: PersonRecord; draft?: Draft; closed?: (line: Line) => boolean },
) => restoredDraft({ draft, composition: composed(was, draft), erased }, { draft: draftOf([]), country: 'GB', ...now });

const was = recordOf(text('title', 't', 'Rope inspector'), text('note', 'n', 'Ask for Ilse'));
const lines = [lineOf('t', ON), lineOf('n', ON)];

test('a line that the restorer may not word says what it says now, and is named where that is something else', () => {
  const record = recordOf(text('title', 't', 'Head of ropes'), text('note', 'n', 'Ask for Ilse'));
  const worded = { ...lineOf('t', ON), wording: 'Chief inspector' };
  const now = draftOf([lineOf('t', ON), lineOf('n', ON)]);
  const closed = ({ detail }: Line) => detail === 't';
  const back = restored({ was, draft: draftOf([worded, lines[1]!]) }, { record, draft: now, closed });
  expect(composed(record, back.draft).lines.map(({ detail }) => 'text' in detail && detail.text)).toEqual([
    'Head of ropes',
    'Ask for Ilse',
  ]);
  expect(back.lost).toEqual(['Job title']);
  // Said the same on both, nothing is lost; gone from the card by now, it stays gone.
  expect(restored({ was, draft: draftOf(lines) }, { record, draft: now, closed }).lost).toEqual([]);
  const without = restored({ was, draft: draftOf([worded]) }, { record, draft: draftOf([]), closed });
  expect(composed(record, without.draft).lines).toEqual([]);
  // Words in further languages go with the line that they are of.
  const words = { de: { 't/wording': 'Chefprüferin', 'n/wording': 'Nach Ilse fragen' } };
  const theirs = { de: { 't/wording': 'Leiterin' } };
  const translated = restored(
    { was, draft: draftOf(lines, { words }) },
    { record, draft: { ...now, words: theirs }, closed },
  );
  expect(translated.draft.words).toEqual({ de: { 't/wording': 'Leiterin', 'n/wording': 'Nach Ilse fragen' } });
});

test('what the record no longer has comes back as a line of the card’s own; under an id that is taken by now it gets another, and all that names it follows', () => {
  const bar = {
    kind: 'action bar',
    id: 'b',
    on: true,
    before: false,
    title: '',
    buttons: [
      { id: '1', act: 'save', line: null, subject: '', text: '' },
      { id: '2', act: 'open', line: 'n', subject: '', text: '' },
    ],
  } as Block;
  const look = { ...FIRST_LOOK, lines: { n: { size: 'large' } } } as unknown as Draft['look'];
  const draft = draftOf(lines, { blocks: [bar], look, words: { de: { 'n/wording': 'Nach Ilse fragen' } } });
  const gone = restored({ was, draft }, { record: recordOf(text('title', 't', 'Rope inspector')) });
  const own = gone.draft.lines.find(({ own: each }) => each)!;
  expect([own.detail, own.own]).toEqual(['n', expect.objectContaining({ kind: 'note', text: 'Ask for Ilse' })]);
  // By now another kind of value has that id: a title cannot say a note’s lines.
  const long = 'Ask for Ilse\nat the valley station\n'.repeat(20);
  const before = recordOf(text('title', 't', 'Rope inspector'), text('note', 'n', long));
  const after = recordOf(text('title', 't', 'Rope inspector'), {
    kind: 'phone',
    id: 'n',
    label: '',
    preferred: false,
    number: '+442079460182',
    uses: ['work'],
  });
  const renamed = restored({ was: before, draft }, { record: after });
  expect(renamed.draft.lines.map(({ detail }) => detail)).toEqual(expect.arrayContaining(['t', 'n-2']));
  expect(Object.keys(renamed.draft.words.de!)).toEqual(['n-2/wording']);
  expect(Object.keys(renamed.draft.look.lines)).toEqual(['n-2']);
  expect((renamed.draft.blocks[0] as Extract<Block, { kind: 'action bar' }>).buttons[1]!.line).toBe('n-2');
  expect(renamed.lost).toEqual([]);
});

test('erased pictures, films and captions are named once each, and leave no broken place', () => {
  const [gone, kept, film] = [PICTURE('a'), PICTURE('b'), PICTURE('c')];
  const item = (id: string, picture: typeof gone, title: string) => ({
    id,
    picture,
    alt: '',
    title,
    text: '',
    url: '',
  });
  const blocks = [
    {
      kind: 'gallery',
      id: 'g',
      on: true,
      before: false,
      title: '',
      items: [item('1', gone, 'Up'), item('2', kept, 'Down')],
    },
    {
      ...{ kind: 'video', id: 'v', on: true, before: false, title: '' },
      videos: [
        {
          id: '3',
          title: 'Ride',
          film: { hash: film.hash, type: 'video/mp4', width: 9, height: 9, seconds: 1, bytes: 1 },
          player: 'https://films.example/7',
          poster: gone,
          captions: { hash: film.hash, language: 'de' },
        },
      ],
    },
  ] as unknown as Block[];
  const look = { ...FIRST_LOOK, ground: { kind: 'picture', picture: gone, veil: 0.7 } } as Draft['look'];
  const opens = { first: 'picture', picture: gone, alt: '' } as const;
  const draft = draftOf(lines, { blocks, look, opens });
  const { draft: back, lost } = restored({ was, draft, erased: [gone.hash, film.hash] }, { record: was });
  expect(JSON.stringify(back)).not.toContain(gone.hash);
  expect(JSON.stringify(back)).not.toContain(film.hash);
  expect(JSON.stringify(back)).toContain(kept.hash);
  expect([back.opens, back.look.ground]).toEqual([{ first: 'page' }, { kind: 'plain' }]);
  expect(lost).toEqual(expect.arrayContaining(['Up', 'Ride']));
  expect(new Set(lost).size).toBe(lost.length);
  // With nothing erased nothing is lost.
  expect(restored({ was, draft }, { record: was })).toMatchObject({ lost: [], draft: { blocks, opens } });
});

test('a photo that the record has replaced stays the record’s; a name is worded where it was another', () => {
  const photo = (hash: string) => ({
    kind: 'photo',
    id: 'p',
    label: '',
    preferred: false,
    picture: hash.repeat(64).slice(0, 64),
  });
  const before = recordOf(photo('a'));
  const draft = draftOf([lineOf('p', ON)]);
  const back = restored({ was: before, draft }, { record: recordOf(photo('b')) });
  expect([back.lost.length, back.draft.lines.find(({ detail }) => detail === 'p')?.own ?? null]).toEqual([1, null]);
  const married = RecordSchema.parse({ name: { given: 'Ilse', family: 'Brandt' }, details: [] });
  const named = restored({ was, draft: draftOf([]) }, { record: married });
  expect(named.draft.lines[0]).toMatchObject({ detail: NAME_LINE, wording: 'Ilse Varrow', part: null });
});
