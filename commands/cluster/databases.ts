import pg from 'pg';

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

/** Drops a database, its connections, and the application's role in it. */
export const dropDatabase = (maintenanceUrl: string, name: string): Promise<void> =>
  asOwner(maintenanceUrl, async (client) => {
    await client.query(`DROP DATABASE IF EXISTS ${quoted(name)} WITH (FORCE)`);
    await client.query(`DROP ROLE IF EXISTS ${quoted(`heathland_app_${name}`)}`);
  });

/** Makes a fresh database as a copy of another. */
export const copyDatabase = async (maintenanceUrl: string, name: string, template: string): Promise<void> => {
  await dropDatabase(maintenanceUrl, name);
  await asOwner(maintenanceUrl, (client) =>
    client.query(`CREATE DATABASE ${quoted(name)} TEMPLATE ${quoted(template)}`),
  );
};
