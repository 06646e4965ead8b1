import pg from 'pg';
import { rolesOf } from '../../src/server/env';

/** Work on a database as whoever its address names. */
export async function asOwner<T>(url: string, work: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client(url);
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

const quoted = (name: string) => `"${name.replace(/"/g, '""')}"`;

/** Makes a database if there is none of that name. */
export const ensureDatabase = (maintenanceUrl: string, name: string): Promise<void> =>
  asOwner(maintenanceUrl, async (client) => {
    const { rowCount } = await client.query('SELECT FROM pg_database WHERE datname = $1', [name]);
    if (!rowCount) await client.query(`CREATE DATABASE ${quoted(name)}`);
  });

/** Drops a database, its connections, and the application's roles in it. */
export const dropDatabase = (maintenanceUrl: string, name: string): Promise<void> =>
  asOwner(maintenanceUrl, async (client) => {
    await client.query(`DROP DATABASE IF EXISTS ${quoted(name)} WITH (FORCE)`);
    const { rows } = await client.query<{ rolname: string }>(
      'SELECT rolname FROM pg_roles WHERE starts_with(rolname, $1)',
      [rolesOf(name)],
    );
    for (const { rolname } of rows) await client.query(`DROP ROLE IF EXISTS ${quoted(rolname)}`);
  });

/** Makes a fresh database as a copy of another. */
export const copyDatabase = async (maintenanceUrl: string, name: string, template: string): Promise<void> => {
  await dropDatabase(maintenanceUrl, name);
  await asOwner(maintenanceUrl, (client) =>
    client.query(`CREATE DATABASE ${quoted(name)} TEMPLATE ${quoted(template)}`),
  );
};
