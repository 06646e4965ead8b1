import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;

/**
 * What is given out is known to be private or not, by what its record says of it; records of before are judged when the map is first looked at. What
 * was taken off cards in one act is kept with its job, so that it can be undone.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    -- Figures of days and times are no numbers to call.
    DELETE FROM published_values k USING published_values b WHERE k.source = 'inside' AND b.kind IN ('birthday', 'hours')
      AND b.organisation_id = k.organisation_id AND b.card_id = k.card_id AND b.line = k.line;
    DELETE FROM carried k USING carried b WHERE k.source = 'inside' AND b.kind IN ('birthday', 'hours')
      AND b.organisation_id = k.organisation_id AND b.copy_id = k.copy_id AND b.line = k.line;
    ALTER TABLE published_values ADD COLUMN privacy text;
    ALTER TABLE carried ADD COLUMN privacy text;
    CREATE INDEX published_values_private ON published_values (organisation_id, card_id) WHERE privacy IS NOT NULL;
    CREATE INDEX carried_private ON carried (organisation_id, copy_id) WHERE privacy IS NOT NULL;
    ALTER TABLE records ADD COLUMN judged boolean NOT NULL DEFAULT false;
    ALTER TABLE records ALTER COLUMN judged SET DEFAULT true;
    CREATE INDEX records_unjudged ON records (organisation_id, id) WHERE NOT judged;
    -- Found before whether they are done with, by what is asked with every look at People.
    CREATE INDEX copies_unsettled ON copies (organisation_id, card_id) WHERE done_at IS NULL AND channel NOT IN ('file', 'mail');
    CREATE TABLE mends (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL,
      job_id uuid NOT NULL,
      record_id uuid NOT NULL,
      -- None where the record itself was changed.
      card_id uuid,
      -- What it was before; none where it was left as it is, with the reason.
      was jsonb,
      problem jsonb,
      undone_at timestamptz,
      FOREIGN KEY (organisation_id, job_id) REFERENCES jobs (organisation_id, id) ON DELETE CASCADE,
      FOREIGN KEY (organisation_id, record_id) REFERENCES records (organisation_id, id) ON DELETE CASCADE,
      FOREIGN KEY (organisation_id, card_id) REFERENCES cards (organisation_id, id) ON DELETE CASCADE
    );
    CREATE UNIQUE INDEX mends_of_job ON mends (organisation_id, job_id, record_id, card_id) NULLS NOT DISTINCT;
    CREATE INDEX mends_of_record ON mends (organisation_id, record_id);
    CREATE INDEX mends_of_card ON mends (organisation_id, card_id);
    ALTER TABLE mends ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON mends USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    GRANT SELECT, INSERT, UPDATE, DELETE ON mends TO ${APP};
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    DROP TABLE mends;
    DROP INDEX copies_unsettled;
    ALTER TABLE records DROP COLUMN judged;
    ALTER TABLE published_values DROP COLUMN privacy;
    ALTER TABLE carried DROP COLUMN privacy;
  `);
}
