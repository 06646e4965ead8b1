/** One statement on whichever connection: the application's, or its owner's from the command line. */
export type Ask = <T>(statement: string) => Promise<T[]>;

/**
 * What an organisation does not take along: what is to be forgotten, what only this installation knows, and work that is under way.
 */
const LEFT = new Set([
  'visitor_secrets',
  'sessions',
  'known_devices',
  'outbox',
  'evenings',
  'account_links',
  'mailed_codes',
  'directory_previews',
  'prefix_requests',
  'jobs',
  'made_files',
  'made_parts',
  'mends',
  'faults',
  'failing_proofs',
  'imports',
  'import_entries',
  'roster_runs',
  'roster_rows',
  'roster_pictures',
  // Made again of what is taken along.
  'drawings',
  // Kept by the database itself, of what is taken along.
  'findable',
  'response_days',
  'response_figures',
]);

export type OrganisationTable = { name: string; key: 'id' | 'organisation_id' };

/** Every table whose rows belong to an organisation, those that others name first. */
export async function organisationTables(ask: Ask): Promise<OrganisationTable[]> {
  const named = await ask<{ name: string }>(
    `SELECT c.table_name AS name FROM information_schema.columns c JOIN information_schema.tables t USING (table_schema, table_name)
     WHERE c.table_schema = 'public' AND c.column_name = 'organisation_id' AND t.table_type = 'BASE TABLE' ORDER BY 1`,
  );
  const keys = await ask<{ from: string; to: string }>(
    `SELECT DISTINCT conrelid::regclass::text AS "from", confrelid::regclass::text AS "to" FROM pg_constraint
     WHERE contype = 'f' AND conrelid <> confrelid`,
  );
  let left = named.map(({ name }) => name).filter((name) => !LEFT.has(name));
  const order: OrganisationTable[] = [{ name: 'organisations', key: 'id' }];
  while (left.length > 0) {
    const ready = left.filter((name) => !keys.some(({ from, to }) => from === name && left.includes(to)));
    if (ready.length === 0) throw new Error('Tables name each other in a circle.');
    order.push(...ready.map((name): OrganisationTable => ({ name, key: 'organisation_id' })));
    left = left.filter((name) => !ready.includes(name));
  }
  return order;
}

export const appliedMigrations = async (ask: Ask): Promise<string[]> =>
  (await ask<{ name: string }>('SELECT name FROM knex_migrations ORDER BY id')).map(({ name }) => name);

/** Of each table the columns that name a file of the store, by their type, so that none can be forgotten. */
export async function fileColumns(ask: Ask): Promise<Map<string, string[]>> {
  const found = await ask<{ table: string; column: string }>(
    `SELECT table_name AS "table", column_name AS "column" FROM information_schema.columns
     WHERE table_schema = 'public' AND domain_name = 'stored_file' ORDER BY 1, 2`,
  );
  const columns = new Map<string, string[]>();
  for (const { table, column } of found) columns.set(table, [...(columns.get(table) ?? []), column]);
  return columns;
}
