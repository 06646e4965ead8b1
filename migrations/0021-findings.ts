import type { Knex } from 'knex';

/** Codes of problems by their names of today. */
const RENAMED = [
  ['STORE_AWAY', 'STORE_UNAVAILABLE'],
  ['DATABASE_AWAY', 'DATABASE_UNAVAILABLE'],
] as const;

const rename = (table: string, from: string, to: string) =>
  `UPDATE ${table} SET problem = jsonb_set(problem, '{code}', '"${to}"') WHERE problem->>'code' = '${from}';`;

/** A finding of a proof is kept as its code with its data; what was kept as a sentence stays one, under a code that says so. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE failing_proofs ALTER COLUMN finding TYPE jsonb
      USING jsonb_build_object('code', 'WORDED', 'sentence', finding);
    ${['jobs', 'plans']
      .map(
        (table) => `UPDATE ${table}
          SET problem = jsonb_set(problem, '{finding}', jsonb_build_object('code', 'WORDED', 'sentence', problem->'finding'))
          WHERE problem->>'code' = 'PROOF_FAILED';
          ${RENAMED.map(([from, to]) => rename(table, from, to)).join('\n')}`,
      )
      .join('\n')}
  `);
}

/** A sentence is not made of a code here: the next proof writes it. */
export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE failing_proofs ALTER COLUMN finding TYPE text USING coalesce(finding->>'sentence', '');
    ${['jobs', 'plans']
      .map(
        (table) => `UPDATE ${table}
          SET problem = jsonb_set(problem, '{finding}', coalesce(problem->'finding'->'sentence', '""'))
          WHERE problem->>'code' = 'PROOF_FAILED';
          ${RENAMED.map(([from, to]) => rename(table, to, from)).join('\n')}`,
      )
      .join('\n')}
  `);
}
