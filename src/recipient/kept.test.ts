import { keptOnceMade } from './kept';

test('what many ask for at once is made once, and what failed is made anew for the next one', async () => {
  const keep = keptOnceMade<string>(1_000, (made) => made.length);
  let [made, fails] = [0, true];
  const make = async () => {
    made += 1;
    await Promise.resolve();
    if (fails) throw new Error('the store is away');
    return 'drawn';
  };
  const failed = await Promise.allSettled(Array.from({ length: 50 }, () => keep('a', make)));
  expect([made, new Set(failed.map(({ status }) => status))]).toEqual([1, new Set(['rejected'])]);
  fails = false;
  const found = await Promise.all(Array.from({ length: 50 }, () => keep('a', make)));
  expect([made, new Set(found)]).toEqual([2, new Set(['drawn'])]);
  expect([await keep('a', make), made]).toEqual(['drawn', 2]);
  expect([await keep('__proto__', make), made]).toEqual(['drawn', 3]);
});

test('it takes no more than its room: what was asked for least lately goes, what is larger than all of it is given and not kept', async () => {
  const keep = keptOnceMade<Buffer>(100, ({ length }) => length);
  const made: string[] = [];
  const ask = (key: string, bytes: number) =>
    keep(key, () => {
      made.push(key);
      return Promise.resolve(Buffer.alloc(bytes));
    });
  for (const key of ['a', 'b', 'a', 'c', 'a', 'b']) await ask(key, 40);
  // With room for two, `b` went when `c` came, since `a` had been asked for after it.
  expect(made).toEqual(['a', 'b', 'c', 'b']);
  expect(await ask('huge', 1_000)).toHaveLength(1_000);
  await ask('huge', 1_000);
  expect(made.filter((key) => key === 'huge')).toHaveLength(2);
  await ask('a', 40);
  expect(made.filter((key) => key === 'a')).toHaveLength(1);
  // What is empty takes room as well: else there would be no end to it.
  for (let at = 0; at < 200; at += 1) await ask(`empty ${at}`, 0);
  made.length = 0;
  await ask('empty 0', 0);
  expect(made).toEqual(['empty 0']);
});
