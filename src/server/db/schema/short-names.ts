import { asOwner } from './migrate';

/** The organisations of short names, which are the beginnings of their addresses, of today or earlier; one that is nobody's is not among them. As the owner. */
export async function organisationsOf(databaseUrl: string, shortNames: string[]): Promise<Map<string, string>> {
  if (shortNames.length === 0) return new Map();
  const owner = asOwner(databaseUrl);
  try {
    const rows = await owner('directory_prefixes')
      .whereIn('prefix', shortNames)
      .select<{ prefix: string; organisation_id: string }[]>('prefix', 'organisation_id');
    return new Map(rows.map((row) => [row.prefix, row.organisation_id]));
  } finally {
    await owner.destroy();
  }
}
