import type { Knex } from 'knex';

const APP = 'heathland_app';

/**
 * Lines get a tick for the mail signature: the name, and of what is on the page title, firm, and phones and addresses that are for work. A hand-out may be
 * a signature, which keeps how it is laid out.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    UPDATE cards c SET lines = (
      SELECT jsonb_agg(jsonb_set(line, '{ticks,signature}', to_jsonb(
        line->>'detail' = 'name' OR (coalesce((line->'ticks'->>'page')::boolean, false) AND EXISTS (
          SELECT FROM records r, jsonb_array_elements(r.body->'details') d WHERE r.id = c.record_id AND d->>'id' = line->>'detail'
            AND (d->>'kind' IN ('title', 'organisation') OR (d->>'kind' IN ('phone', 'email') AND d->'uses' @> '["work"]'::jsonb))))
        )) ORDER BY at)
      FROM jsonb_array_elements(c.lines) WITH ORDINALITY l(line, at))
    WHERE jsonb_typeof(c.lines) = 'array' AND jsonb_array_length(c.lines) > 0;
    ALTER TABLE hand_outs DROP CONSTRAINT hand_outs_channel_check;
    ALTER TABLE hand_outs ADD CONSTRAINT hand_outs_channel_check CHECK (channel IN ('code', 'tag', 'signature'));
    ALTER TABLE hand_outs ADD COLUMN signature jsonb;
    GRANT UPDATE (signature) ON hand_outs TO ${APP};
    -- One signature a card: it is asked for again and again.
    CREATE UNIQUE INDEX signature_of_card ON hand_outs (organisation_id, card_id) WHERE channel = 'signature';
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    DELETE FROM hand_outs WHERE channel = 'signature';
    ALTER TABLE hand_outs DROP COLUMN signature;
    ALTER TABLE hand_outs DROP CONSTRAINT hand_outs_channel_check;
    ALTER TABLE hand_outs ADD CONSTRAINT hand_outs_channel_check CHECK (channel IN ('code', 'tag'));
    UPDATE cards c SET lines = (
      SELECT jsonb_agg(line #- '{ticks,signature}' ORDER BY at) FROM jsonb_array_elements(c.lines) WITH ORDINALITY l(line, at))
    WHERE jsonb_typeof(c.lines) = 'array' AND jsonb_array_length(c.lines) > 0;
  `);
}
