import { eventStream } from './event-stream';

// What the database tells of is told by the test.
let tells = true;
const waiting = new Set<() => void>();
jest.mock('./hear', () => ({
  changesAreTold: () => tells,
  hearChanges: () => {
    let wake = () => {};
    return {
      next: (ms: number) =>
        new Promise<void>((resolve) => {
          const timer = setTimeout(resolve, ms);
          wake = () => (clearTimeout(timer), resolve());
          waiting.add(wake);
        }),
      wake: () => wake(),
      stop: () => waiting.delete(wake),
    };
  },
}));
const change = () => [...waiting].forEach((wake) => wake());

/** A screen that listens: the events that came, and the comments. */
function listen(
  person: string,
  look: () => Promise<number>,
  { ends = (_: number): boolean => false, everyMs = 1_000 } = {},
) {
  const leaving = new AbortController();
  const request = new Request('https://studio.heath.example/api', { signal: leaving.signal });
  const answer = eventStream(request, person, 0, { of: ['id'], look, everyMs, ends });
  const heard: string[] = [];
  let over = false;
  const done = (async () => {
    const reader = answer.body!.getReader();
    for (;;) {
      const { value, done: ended } = await reader.read();
      if (ended) break;
      heard.push(...new TextDecoder().decode(value).split('\n\n').filter(Boolean));
    }
    over = true;
  })().catch(() => (over = true));
  return { answer, heard, done, leave: () => leaving.abort(), isOver: () => over };
}
const after = (ms: number) => jest.advanceTimersByTimeAsync(ms);

beforeEach(() => {
  jest.useFakeTimers();
  tells = true;
});
afterEach(() => {
  jest.useRealTimers();
  waiting.clear();
});

test('what is seen is told at once, and again each time that it is another (WHATWG HTML, 9.2)', async () => {
  let seen = 0;
  const { heard, answer, leave } = listen('p', async () => seen);
  await after(0);
  expect(answer.headers.get('Content-Type')).toBe('text/event-stream; charset=utf-8');
  expect(heard).toEqual(['data: 0']);
  seen = 1;
  change();
  await after(200);
  expect(heard).toEqual(['data: 0', 'data: 1']);
  // The same again is nothing new.
  change();
  await after(200);
  expect(heard).toHaveLength(2);
  leave();
});

test('a connection on which nothing happens has a sign of life every twenty seconds, and ends by itself after five minutes', async () => {
  let looks = 0;
  const { heard, isOver } = listen('p', async () => ((looks += 1), 0));
  await after(21_000);
  expect(heard).toEqual(['data: 0', ':']);
  await after(5 * 60_000);
  expect(isOver()).toBe(true);
  expect(looks).toBeLessThan(20);
});

test('while the database cannot tell, it is looked as often as the screen asks; away for a moment it is no news', async () => {
  tells = false;
  let seen: number | null = 0;
  const { heard, leave } = listen('p', async () => {
    if (seen === null) throw new Error('away');
    return seen;
  });
  await after(3_000);
  seen = null;
  await after(3_000);
  seen = 5;
  await after(3_000);
  expect(heard).toEqual(['data: 0', 'data: 5']);
  leave();
});

test('it ends with what it was waiting for, and looks no more once nobody listens', async () => {
  let [seen, looks] = [0, 0];
  const ends = listen('p', async () => ((looks += 1), seen), { ends: (value) => value === 2 });
  await after(0);
  seen = 2;
  change();
  await after(200);
  expect([ends.heard, ends.isOver()]).toEqual([['data: 0', 'data: 2'], true]);
  const gone = listen('p', async () => ((looks += 1), seen));
  await after(0);
  gone.leave();
  await after(0);
  const before = looks;
  await after(60_000);
  expect(looks).toBe(before);
});

test('one person keeps a dozen open: the oldest ends for one more, and nobody else’s', async () => {
  const other = listen('q', async () => 0);
  const own = Array.from({ length: 14 }, () => listen('p', async () => 0));
  await after(500);
  expect(own.map(({ isOver }) => isOver())).toEqual([true, true, ...Array<boolean>(12).fill(false)]);
  expect(other.isOver()).toBe(false);
  // Whoever leaves makes room.
  own.at(-1)!.leave();
  await after(200);
  listen('p', async () => 0);
  await after(200);
  expect(own[2]!.isOver()).toBe(false);
});

test('looks that follow each other closely are one', async () => {
  let looks = 0;
  const { leave } = listen('p', async () => ((looks += 1), looks));
  await after(0);
  for (let at = 0; at < 50; at += 1) {
    change();
    await after(10);
  }
  // 500 ms at 150 ms each.
  expect(looks).toBeLessThanOrEqual(5);
  leave();
});
