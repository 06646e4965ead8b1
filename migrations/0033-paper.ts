import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;
const BEFORE = ['code', 'tag', 'signature', 'message', 'share', 'profile'];
const channels = (all: string[]) => `
    ALTER TABLE hand_outs DROP CONSTRAINT hand_outs_channel_check;
    ALTER TABLE hand_outs ADD CONSTRAINT hand_outs_channel_check CHECK (channel IN (${all.map((each) => `'${each}'`).join(', ')}));`;

/**
 * Lines get a tick for paper: of what stands below mails name, title, firm, and phones and addresses that are for work, and the first link of the page. A hand-out may be a printed piece, which keeps how it
 * is made up; its runs tell how many copies are out, where, and of which revision.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    UPDATE cards c SET lines = (
      SELECT jsonb_agg(jsonb_set(line, '{ticks,print}', to_jsonb(line->>'detail' = 'name' OR plain OR coalesce(at = first_link, false))) ORDER BY at)
      FROM (
        SELECT line, at, signed AND (d->>'kind' IN ('title', 'organisation')
            OR (d->>'kind' IN ('phone', 'email') AND d->'uses' @> '["work"]'::jsonb)) IS TRUE AS plain,
          min(at) FILTER (WHERE paged AND d->>'kind' = 'link' AND NOT d->'uses' @> '["home"]'::jsonb) OVER () AS first_link
        FROM (
          SELECT line, at, coalesce((line->'ticks'->>'page')::boolean, false) AS paged,
            coalesce((line->'ticks'->>'page')::boolean AND (line->'ticks'->>'signature')::boolean, false) AS signed,
            (SELECT d FROM records r, jsonb_array_elements(r.body->'details') d WHERE r.id = c.record_id AND d->>'id' = line->>'detail' LIMIT 1) AS d
          FROM jsonb_array_elements(c.lines) WITH ORDINALITY l(line, at)
        ) of_record
      ) each)
    WHERE jsonb_typeof(c.lines) = 'array' AND jsonb_array_length(c.lines) > 0;
    ${channels([...BEFORE, 'print'])}
    ALTER TABLE hand_outs ADD COLUMN print jsonb;
    GRANT UPDATE (print) ON hand_outs TO ${APP};
    CREATE TABLE print_runs (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL,
      hand_out_id uuid NOT NULL,
      printed_on date NOT NULL,
      copies integer NOT NULL CHECK (copies BETWEEN 1 AND 1000000),
      place text NOT NULL DEFAULT '' CHECK (length(place) <= 80),
      revision integer NOT NULL,
      created_at timestamptz NOT NULL,
      FOREIGN KEY (organisation_id, hand_out_id) REFERENCES hand_outs (organisation_id, id) ON DELETE CASCADE
    );
    CREATE INDEX print_runs_of_hand_out ON print_runs (organisation_id, hand_out_id, printed_on DESC, created_at DESC);
    ALTER TABLE print_runs ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON print_runs USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    GRANT SELECT, INSERT, UPDATE, DELETE ON print_runs TO ${APP};
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    DROP TABLE print_runs;
    DELETE FROM hand_outs WHERE channel = 'print';
    ALTER TABLE hand_outs DROP COLUMN print;
    ${channels(BEFORE)}
    UPDATE cards c SET lines = (
      SELECT jsonb_agg(line #- '{ticks,print}' ORDER BY at) FROM jsonb_array_elements(c.lines) WITH ORDINALITY l(line, at))
    WHERE jsonb_typeof(c.lines) = 'array' AND jsonb_array_length(c.lines) > 0;
  `);
}
