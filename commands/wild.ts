import { parseArgs } from 'node:util';
import { withInstallation } from './archive/installation';
import { asOwner } from './cluster/databases';
import { say, Stop } from './stop';

const USAGE = `./heathland wild --value TEXT [--json]
every copy that carries a value, a number say: printed, in a tag or code, below mails, saved; out of date or not. With --json a line each`;

/** Copies that are out and carry a value, of every organisation of the installation. */
export async function run(args: string[]): Promise<number> {
  const { value, json } = (() => {
    try {
      return parseArgs({ args, options: { value: { type: 'string' }, json: { type: 'boolean' } } }).values;
    } catch {
      throw new Stop(USAGE);
    }
  })();
  if (!value?.trim()) throw new Stop(USAGE);
  return withInstallation(async () => {
    const { closeDb } = await import('../src/server/db/pool');
    const { copiesCarrying } = await import('../src/server/services/wild/list-copies');
    let found = 0;
    try {
      for (const organisation of await organisations())
        for await (const copy of copiesCarrying(organisation, value)) {
          found += 1;
          if (json) process.stdout.write(`${JSON.stringify(copy)}\n`);
          else
            say(
              [
                copy.code ?? '-',
                copy.channel,
                copy.placement ?? '-',
                `${copy.carried}, now ${copy.now ?? 'nothing'}`,
              ].join('  '),
            );
        }
      if (!json) say(found === 1 ? '1 copy carries it.' : `${found} copies carry it.`);
      return 0;
    } finally {
      await closeDb();
    }
  });
}

const organisations = (): Promise<{ id: string; country: string }[]> =>
  asOwner(process.env.DATABASE_URL!, async (client) => {
    const { rows } = await client.query<{ id: string; country: string }>(
      'SELECT id, country FROM organisations WHERE erased_at IS NULL AND deleted_at IS NULL ORDER BY id',
    );
    return rows;
  });
