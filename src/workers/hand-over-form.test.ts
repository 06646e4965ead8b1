import fc from 'fast-check';
import { createHeldOutbox, type HeldReply } from './hand-over-form';

const reply = (at: number): HeldReply => ({
  ...{ name: `Person ${at}`, reach: `p${at}@heath.example`, note: '', card: 'c', occasion: null },
  at: new Date(1_780_000_000_000 + at).toISOString(),
});
type Answer = number | 'no network';

/** A phone's store, and a server that answers each post with the next of `answers`, then takes everything. */
function phone(answers: Answer[] = []) {
  let kept: string | null = null;
  const taken: string[] = [];
  const posted: string[] = [];
  const outbox = createHeldOutbox({
    read: () => kept,
    write: (text) => (kept = text),
    post: async ({ reach }) => {
      posted.push(reach);
      const answer = answers.shift() ?? 201;
      await Promise.resolve();
      if (answer === 'no network') throw new TypeError('Failed to fetch');
      const ok = answer < 300;
      if (ok) taken.push(reach);
      return { ok, status: answer };
    },
  });
  return {
    outbox,
    taken,
    posted,
    waits: () => (JSON.parse(kept ?? '[]') as HeldReply[]).length,
    put: (text: string) => (kept = text),
  };
}

test('whatever a network and a server do, each reply arrives once, in its order, or is one that the server refuses for what it says (property)', async () => {
  const answer = fc.constantFrom<Answer>('no network', 401, 422, 429, 500, 503, 201);
  await fc.assert(
    fc.asyncProperty(fc.array(answer, { maxLength: 12 }), fc.integer({ min: 1, max: 6 }), async (answers, many) => {
      const { outbox, taken, posted, waits } = phone([...answers]);
      for (let at = 0; at < many; at += 1) outbox.add(reply(at));
      // As often as somebody has the page open.
      for (let tries = 0; tries <= answers.length; tries += 1) {
        const left = await outbox.sendAll();
        expect(left).toBe(waits());
      }
      expect(waits()).toBe(0);
      const all = Array.from({ length: many }, (_, at) => `p${at}@heath.example`);
      expect(new Set(taken).size).toBe(taken.length);
      expect(taken).toEqual(all.filter((each) => taken.includes(each)));
      // What did not arrive was refused, and the refusal was of its words.
      const refused = all.filter((each) => !taken.includes(each));
      expect(refused.length).toBeLessThanOrEqual(answers.filter((each) => each === 422).length);
      for (const each of all) expect(posted).toContain(each);
    }),
    { numRuns: 200 },
  );
});

test('two who send at once are one; what is typed meanwhile goes along', async () => {
  const { outbox, posted, taken } = phone();
  outbox.add(reply(1));
  const both = [outbox.sendAll(), outbox.sendAll()];
  outbox.add(reply(2));
  expect(await Promise.all(both)).toEqual([0, 0]);
  expect([posted, taken]).toEqual([
    ['p1@heath.example', 'p2@heath.example'],
    ['p1@heath.example', 'p2@heath.example'],
  ]);
  expect(await outbox.sendAll()).toBe(0);
});

test('a store that another program has spoilt is an empty one', async () => {
  for (const spoilt of ['{', '"x"', '{"a":1}', 'null', '']) {
    const { outbox, put, taken } = phone();
    put(spoilt);
    expect([spoilt, await outbox.sendAll()]).toEqual([spoilt, 0]);
    outbox.add(reply(3));
    await outbox.sendAll();
    expect([spoilt, taken]).toEqual([spoilt, ['p3@heath.example']]);
  }
});
