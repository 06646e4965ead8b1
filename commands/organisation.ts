import { existsSync } from 'node:fs';
import { LIMITS } from '../src/core/limits';
import { isOrganisationId } from '../src/server/env';
import { systemClock } from '../src/server/clock';
import { exportOrganisation, takeInOrganisation } from './archive/organisation';
import { withInstallation } from './archive/installation';
import { asOwner } from './cluster/databases';
import { fromWhereCalled } from './place';
import { say, Stop } from './stop';

const USAGE =
  'organisation list, organisation export ID FILE, organisation take-in FILE, organisation delete ID, organisation bring-back ID';

/** Hides an organisation as an owner does, until it is erased, or brings it back. */
async function setDeleted(url: string, id: string, deleted: boolean): Promise<number> {
  const { rows } = await asOwner(url, (client) =>
    client.query<{ name: string; deleted: boolean }>(
      'SELECT name, deleted_at IS NOT NULL AS deleted FROM organisations WHERE id = $1 AND erased_at IS NULL',
      [id],
    ),
  );
  const [found] = rows;
  if (!found) throw new Stop('There is no organisation of this id.');
  if (found.deleted === deleted) throw new Stop(`${found.name} is ${deleted ? 'deleted already' : 'not deleted'}.`);
  const { bringBackForOperator, deleteForOperator } =
    await import('../src/server/services/organisation/delete-organisation');
  await (deleted ? deleteForOperator : bringBackForOperator)(id, systemClock);
  say(
    deleted
      ? `${found.name} is deleted: its cards answer with a note, everybody is signed out, and it is erased after ${LIMITS.deletedDays} days.`
      : `${found.name} is back.`,
  );
  return 0;
}

/** The organisations of an installation; one of them into an archive, and an archive into another installation. */
export async function run([verb, ...args]: string[]): Promise<number> {
  if (verb === undefined || (verb === 'list' && args.length === 0))
    return withInstallation(async (url) => {
      const { rows } = await asOwner(url, (client) =>
        client.query<{ id: string; name: string; cards: string; deleted: Date | null }>(
          `SELECT o.id, o.name, o.deleted_at AS deleted, (SELECT count(*) FROM cards c WHERE c.organisation_id = o.id) AS cards
           FROM organisations o WHERE o.erased_at IS NULL ORDER BY o.name`,
        ),
      );
      for (const { id, name, cards, deleted } of rows)
        process.stdout.write(
          [id, name, `${cards} cards`, ...(deleted ? [`deleted ${deleted.toISOString()}`] : [])].join('\t') + '\n',
        );
      return 0;
    });
  if ((verb === 'delete' || verb === 'bring-back') && args.length === 1 && isOrganisationId(args[0]!))
    return withInstallation((url) => setDeleted(url, args[0]!, verb === 'delete'));
  if (verb === 'export' && args.length === 2 && isOrganisationId(args[0]!)) {
    const file = fromWhereCalled(args[1]!);
    if (existsSync(file)) throw new Stop(`${file} is there already and was left as it is. Choose another name.`);
    return withInstallation(async (url) => {
      const { rows, files } = await exportOrganisation(url, args[0]!, file, new Date());
      say(`Wrote ${file}: ${rows} rows and ${files} files.`);
      return 0;
    });
  }
  if (verb === 'take-in' && args.length === 1)
    return withInstallation(async (url) => {
      const { organisation, rows, files } = await takeInOrganisation(url, fromWhereCalled(args[0]!));
      say(`Took in ${organisation}: ${rows} rows and ${files} files.`);
      return 0;
    });
  throw new Stop(`Say what to do: ./heathland ${USAGE}`);
}
