import fc from 'fast-check';
import { err, ok, type Problem } from '@/core/errors';
import { createKeeper } from './keeper';

type Row = { version: number; name: string; ticked: number };
type Change = { name: string; ticked: number };
type Told = { kept: Row; problem: Problem | null; waiting: boolean };

/** A server with one row, whose answers come when they are let go, and which refuses when it is told to. */
function open() {
  let row: Row = { version: 1, name: 'a', ticked: 0 };
  const answers: (() => void)[] = [];
  const told: Told[] = [];
  let refuses = false;
  let under = 0;
  let most = 0;
  const keeper = createKeeper<Row, Change>(
    row,
    async (kept, change) => {
      most = Math.max(most, (under += 1));
      await new Promise<void>((go) => answers.push(go));
      under -= 1;
      if (refuses) return err({ code: 'OFFLINE' });
      if (kept.version !== row.version) return err({ code: 'RECORD_CHANGED', version: row.version });
      row = { ...kept, ...change, version: row.version + 1 };
      return ok(row);
    },
    (each) => told.push(each),
  );
  return {
    keeper,
    told,
    server: () => row,
    most: () => most,
    refuse: (on: boolean) => (refuses = on),
    /** Lets answers come until none is waited for. */
    async settle() {
      for (let idle = 0; idle < 3;) {
        const next = answers.shift();
        next?.();
        idle = next ? 0 : idle + 1;
        await new Promise((go) => setImmediate(go));
      }
    },
  };
}

const change = fc.oneof(
  fc.record({ name: fc.constantFrom('b', 'c', 'd') }),
  fc.record({ ticked: fc.nat({ max: 9 }) }),
  fc.record({ name: fc.constantFrom('e', 'f'), ticked: fc.nat({ max: 9 }) }),
);

test('however fast somebody goes on, the server ends with the last of each, over versions that it knew, one save at a time', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(fc.tuple(change, fc.boolean()), { minLength: 1, maxLength: 12 }), async (changes) => {
      const { keeper, told, server, most, settle } = open();
      for (const [each, waits] of changes) {
        keeper.save(each);
        if (waits) await settle();
      }
      await settle();
      const last = changes.reduce<Partial<Change>>((all, [each]) => ({ ...all, ...each }), {});
      expect(server()).toMatchObject(last);
      expect(most()).toBe(1);
      expect(told.every(({ problem }) => problem === null)).toBe(true);
      expect(told.at(-1)).toEqual({ kept: server(), problem: null, waiting: false });
    }),
    { numRuns: 60 },
  );
});

test('what is refused is told, and what the server has is shown; the next change goes over that', async () => {
  const { keeper, told, server, refuse, settle } = open();
  refuse(true);
  keeper.save({ name: 'lost' });
  await settle();
  expect(told).toEqual([{ kept: server(), problem: { code: 'OFFLINE' }, waiting: false }]);
  refuse(false);
  keeper.save({ ticked: 3 });
  await settle();
  expect(server()).toEqual({ version: 2, name: 'a', ticked: 3 });
});

test('what was asked for anew is not taken over what somebody is changing', async () => {
  const { keeper, server, settle } = open();
  keeper.save({ name: 'mine' });
  expect(keeper.take({ version: 9, name: 'theirs', ticked: 0 })).toBe(false);
  await settle();
  expect([server().name, keeper.take(server())]).toEqual(['mine', true]);
});
