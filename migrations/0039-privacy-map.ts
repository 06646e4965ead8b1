import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;

/** Counts of all cards as they stand, of when this was written. */
export const COUNTED = `
    WITH old AS (
      SELECT DISTINCT c.id, c.card_id, c.done_at IS NULL AND c.channel NOT IN ('file', 'mail') AND coalesce(h.state, 'out') <> 'retired' AS unsettled
      FROM carried k JOIN copies c ON c.id = k.copy_id JOIN cards o ON o.id = c.card_id LEFT JOIN hand_outs h ON h.id = c.hand_out_id
      WHERE k.source IN ('card', 'house')
        AND NOT EXISTS (SELECT FROM published_values p WHERE p.organisation_id = o.organisation_id AND p.card_id IS NULL AND p.kind = k.kind AND p.value = k.value)
        AND (o.state = 'retired' OR NOT EXISTS (
          SELECT FROM published_values p WHERE p.organisation_id = o.organisation_id AND p.card_id = o.id AND p.kind = k.kind AND p.value = k.value
            AND (p.kind <> 'organisation' OR NOT EXISTS (
              SELECT FROM published_values f WHERE f.organisation_id = o.organisation_id AND f.card_id IS NULL AND f.kind = 'organisation' AND f.source = 'house'
                AND (f.locked OR NOT f.line = ANY (o.published_hides))))))
    )
    UPDATE cards SET wild = n.wild, stale = true
      FROM (SELECT card_id, count(*) FILTER (WHERE unsettled)::int AS wild FROM old GROUP BY card_id) n WHERE n.card_id = cards.id;`;

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
    -- How many copies of a card are out of date and not dealt with, and whether any is at all: with the card, since every look at People asks for it.
    ALTER TABLE cards ADD COLUMN wild integer NOT NULL DEFAULT 0, ADD COLUMN stale boolean NOT NULL DEFAULT false;
    GRANT UPDATE (wild, stale) ON cards TO ${APP};
    -- Kinds of private values that are public, with their forms, as kind/form.
    ALTER TABLE cards ADD COLUMN exposed text[] NOT NULL DEFAULT '{}';
    GRANT UPDATE (exposed) ON cards TO ${APP};
    CREATE INDEX cards_exposed ON cards (organisation_id) WHERE exposed <> '{}';
    CREATE INDEX cards_wild ON cards (organisation_id) WHERE wild > 0;
    CREATE INDEX copies_by_time ON copies (organisation_id, made_at, id);
    ${COUNTED}
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
    DROP INDEX copies_by_time;
    ALTER TABLE cards DROP COLUMN wild, DROP COLUMN stale, DROP COLUMN exposed;
    ALTER TABLE records DROP COLUMN judged;
    ALTER TABLE published_values DROP COLUMN privacy;
    ALTER TABLE carried DROP COLUMN privacy;
  `);
}
