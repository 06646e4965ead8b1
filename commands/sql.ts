import pg from 'pg';
import { applicationRole } from '../src/server/env';
import { withInstallation } from './archive/installation';
import { Stop } from './stop';

/** A value as one field of a tab-separated row: NULL as \\N, what would break the row escaped (as PostgreSQL's COPY does). */
const field = (value: string | null): string =>
  value === null
    ? '\\N'
    : value.replace(/[\\\t\n\r]/g, (sign) => ({ '\\': '\\\\', '\t': '\\t', '\n': '\\n', '\r': '\\r' })[sign]!);

/** One statement on the installation, as the owner or as the application's role without a tenant; its rows, and nothing is kept. */
export async function run(args: string[]): Promise<number> {
  const asApplication = args.includes('--application');
  const [statement, ...rest] = args.filter((word) => word !== '--application');
  if (!statement || rest.length > 0) throw new Stop('Say what: ./heathland sql [--application] "STATEMENT"');
  return withInstallation(async (databaseUrl, secret) => {
    const url = asApplication ? applicationRole(databaseUrl, secret).url : databaseUrl;
    // Values come as the database writes them.
    const client = new pg.Client({
      connectionString: url,
      types: { getTypeParser: () => (text: string) => text } as never,
    });
    await client.connect();
    try {
      await client.query('BEGIN');
      // By a cursor-less extended query, which takes a single statement alone: nothing behind a semicolon can end the transaction.
      const { fields, rows } = (await client.query({
        text: statement,
        values: [],
        rowMode: 'array',
        queryMode: 'extended',
      } as never)) as unknown as { fields: { name: string }[]; rows: (string | null)[][] };
      if (fields.length > 0) process.stdout.write(`${fields.map(({ name }) => field(name)).join('\t')}\n`);
      for (const row of rows) process.stdout.write(`${row.map(field).join('\t')}\n`);
      return 0;
    } catch (error) {
      const { code, message } = error as { code?: string; message: string };
      throw new Stop(`${code ?? 'error'}: ${message}`);
    } finally {
      await client.query('ROLLBACK').catch(() => undefined);
      await client.end();
    }
  });
}
