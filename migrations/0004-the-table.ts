import type { Knex } from 'knex';

const APP = 'heathland_app';

export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    -- What a line has got besides label, wording and ticks, and the ticks of two further channels.
    UPDATE cards SET lines = coalesce((
      SELECT jsonb_agg(
        jsonb_build_object('part', NULL, 'emphasis', 'plain', 'gap', false, 'own', NULL) || line
          || jsonb_build_object('ticks', jsonb_build_object(
            'code', line->>'detail' = 'name', 'tag', line->>'detail' = 'name') || (line->'ticks'))
        ORDER BY at)
      FROM jsonb_array_elements(lines) WITH ORDINALITY AS each(line, at)), '[]');

    -- What a recipient of a resting or retired card reads, and the colleague's card shown instead; the trade it started from.
    ALTER TABLE cards
      ADD COLUMN notice text NOT NULL DEFAULT '',
      ADD COLUMN instead uuid REFERENCES cards ON DELETE SET NULL,
      ADD COLUMN start text;

    -- A frozen hand-out keeps the very bytes that it carries, base64.
    ALTER TABLE hand_outs
      ADD COLUMN channel text NOT NULL DEFAULT 'code' CHECK (channel IN ('code', 'tag')),
      ADD COLUMN frozen text,
      ADD COLUMN revision integer;

    -- An organisation's own audience presets; without any it has ours.
    ALTER TABLE organisations ADD COLUMN audiences jsonb;

    -- Private addresses of drafts. Only a hash of the address is kept; known before the tenant is.
    CREATE TABLE directory_previews (
      token_hash bytea PRIMARY KEY,
      card_id uuid NOT NULL,
      organisation_id uuid NOT NULL,
      expires_at timestamptz NOT NULL
    );
    CREATE INDEX ON directory_previews (card_id);
    GRANT SELECT, INSERT, DELETE ON directory_previews TO ${APP};
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    DROP TABLE directory_previews;
    ALTER TABLE organisations DROP COLUMN audiences;
    DELETE FROM hand_outs WHERE frozen IS NOT NULL OR channel <> 'code';
    ALTER TABLE hand_outs DROP COLUMN channel, DROP COLUMN frozen, DROP COLUMN revision;
    ALTER TABLE cards DROP COLUMN notice, DROP COLUMN instead, DROP COLUMN start;
  `);
}
