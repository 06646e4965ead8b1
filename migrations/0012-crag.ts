import type { Knex } from 'knex';

/** Where a layout's name is kept: a JSON column and the path in it. */
const NAMED: [table: string, column: string, path: string][] = [
  ['cards', 'look', '{layout}'],
  ['looks', 'look', '{layout}'],
  ['house_styles', 'style', '{look,layout}'],
  ['revisions', 'composition', '{look,layout}'],
  ['revisions', 'draft', '{look,layout}'],
  ['plans', 'composition', '{look,layout}'],
  ['plans', 'draft', '{look,layout}'],
];

const rename = (from: string, to: string): string => `
  ${NAMED.map(
    ([table, column, path]) =>
      `UPDATE ${table} SET ${column} = jsonb_set(${column}, '${path}', '"${to}"') WHERE ${column} #>> '${path}' = '${from}';`,
  ).join('\n')}
  UPDATE house_styles SET style = jsonb_set(style, '{layouts}', (
    SELECT jsonb_agg(CASE WHEN name = '"${from}"' THEN '"${to}"' ELSE name END ORDER BY at)
    FROM jsonb_array_elements(style -> 'layouts') WITH ORDINALITY AS each(name, at)
  )) WHERE style -> 'layouts' ? '${from}';`;

// A question mark is a placeholder to the query builder.
const escaped = (sql: string): string => sql.replaceAll('?', '\\?');

/** A layout gets a name that looks like nothing else. */
export const up = (knex: Knex): Promise<void> => knex.raw(escaped(rename('beacon', 'crag')));
export const down = (knex: Knex): Promise<void> => knex.raw(escaped(rename('crag', 'beacon')));
