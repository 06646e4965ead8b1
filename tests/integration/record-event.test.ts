import type { EventRow } from '@/server/db/response/events';
import { createEventRecorder } from '@/server/intake/record-event';
import './place';

const rowOf = (cardId: string) => ({ cardId }) as unknown as EventRow;
const turn = () => new Promise((resume) => setImmediate(resume));

/** A database whose commits end when they are told to. */
function openRecorder() {
  const commits: { id: string; rows: EventRow[]; done: (fails?: boolean) => void }[] = [];
  const record = createEventRecorder(
    (id, rows) =>
      new Promise((resolve, reject) => {
        const done = (fails = false) =>
          fails ? reject(new Error('away')) : resolve(new Map(rows.map(({ cardId }) => [cardId, 7])));
        commits.push({ id, rows, done });
      }),
  );
  const until = async (count: number) => {
    for (let tries = 0; commits.length < count && tries < 500; tries += 1) await turn();
    return commits[count - 1]!;
  };
  return { record, commits, until };
}

test('events of one turn share a commit; what comes meanwhile waits for the next; each answer follows its own commit', async () => {
  const { record, commits, until } = openRecorder();
  const first = [record(rowOf('a')), record(rowOf('b'))];
  const one = await until(1);
  expect(one.rows.map(({ cardId }) => cardId)).toEqual(['a', 'b']);
  let told = false;
  const second = record(rowOf('c')).then((outcome) => ((told = true), outcome));
  for (let turns = 0; turns < 50; turns += 1) await turn();
  // One commit at a time: the second begins once the first has been acknowledged, and nobody is told before.
  expect(commits).toHaveLength(1);
  one.done();
  expect(await Promise.all(first)).toEqual([
    { recorded: true, version: 7 },
    { recorded: true, version: 7 },
  ]);
  const two = await until(2);
  expect(told).toBe(false);
  two.done();
  expect(await second).toEqual({ recorded: true, version: 7 });
});

test('a commit that fails is tried once more under the same id, so that nothing is doubled; then the answer says so', async () => {
  const { record, commits, until } = openRecorder();
  const once = record(rowOf('a'));
  (await until(1)).done(true);
  const again = await until(2);
  expect([again.id, again.rows]).toEqual([commits[0]!.id, commits[0]!.rows]);
  again.done();
  expect(await once).toEqual({ recorded: true, version: 7 });
  const lost = record(rowOf('b'));
  (await until(3)).done(true);
  (await until(4)).done(true);
  expect(await lost).toEqual({ recorded: false });
  // And it goes on with the next.
  const next = record(rowOf('c'));
  const last = await until(5);
  expect(last.id).not.toBe(commits[2]!.id);
  last.done();
  expect(await next).toEqual({ recorded: true, version: 7 });
});

test('a card that the commit knows no version of is told without one', async () => {
  const record = createEventRecorder(() => Promise.resolve(new Map()));
  expect(await record(rowOf('a'))).toEqual({ recorded: true, version: undefined });
});

test('a group that is full begins at once; a commit takes 400 at most; beyond 5,000 waiting a view is shown uncounted', async () => {
  const { record, commits, until } = openRecorder();
  const full = Array.from({ length: 25 }, (_, at) => record(rowOf(String(at))));
  // Without a turn of the event loop in between.
  expect(commits.map(({ rows }) => rows.length)).toEqual([25]);
  const waiting = Array.from({ length: 5_000 }, (_, at) => record(rowOf(`w${at}`)));
  expect(await record(rowOf('one too many'))).toEqual({ recorded: false });
  for (let count = 1; count <= 14; count += 1) (await until(count)).done();
  expect(commits.map(({ rows }) => rows.length)).toEqual([25, ...Array.from({ length: 12 }, () => 400), 200]);
  expect(new Set((await Promise.all([...full, ...waiting])).map(({ recorded }) => recorded))).toEqual(new Set([true]));
  expect(commits.flatMap(({ rows }) => rows.map(({ cardId }) => cardId)).slice(25, 28)).toEqual(['w0', 'w1', 'w2']);
});
