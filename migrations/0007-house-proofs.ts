import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;

export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    -- Cards whose published revision fails its proof under the house style that holds, and why: found by a job after a version was saved.
    CREATE TABLE failing_proofs (
      card_id uuid PRIMARY KEY REFERENCES cards ON DELETE CASCADE,
      organisation_id uuid NOT NULL REFERENCES organisations,
      revision integer NOT NULL,
      channel text NOT NULL,
      check_name text NOT NULL,
      finding text NOT NULL
    );
    ALTER TABLE failing_proofs ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON failing_proofs USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    GRANT SELECT, INSERT, DELETE ON failing_proofs TO ${APP};
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`DROP TABLE failing_proofs;`);
}
