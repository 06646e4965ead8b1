import { measurePuttingUp, noMachine } from '../../../commands/bench/walk/walk';
import { reached } from '../../../commands/bench/figure';
import { builtRelease } from '../../../commands/release/make';

/*
 * What docs/running.md tells an operator to type is typed, on a machine within this one: PostgreSQL and nginx as Debian has them, the units of
 * deploy/ started by a stand-in, from the database's role to the first card over https. The bench does the rest of it. A machine that cannot
 * hold another one, as without root, says so and is passed over.
 */
const why = noMachine();
if (why) process.stderr.write(`docs/running.md was not walked: ${why}\n`);

(why ? test.skip : test)(
  'the commands of docs/running.md, as they stand, lead to a card over https and a log without surprises',
  async () => {
    const figures = await measurePuttingUp(await builtRelease());
    expect(figures.filter((figure) => !reached(figure))).toEqual([]);
    expect(figures).toHaveLength(2);
  },
  300_000,
);
