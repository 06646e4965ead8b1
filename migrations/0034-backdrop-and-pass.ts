import type { Knex } from 'knex';
import { rewriting } from './rewriting';

const APP = 'heathland_app';
const BEFORE = ['code', 'tag', 'signature', 'message', 'share', 'profile', 'print'];
const channels = (all: string[]) => `
    ALTER TABLE hand_outs DROP CONSTRAINT hand_outs_channel_check;
    ALTER TABLE hand_outs ADD CONSTRAINT hand_outs_channel_check CHECK (channel IN (${all.map((each) => `'${each}'`).join(', ')}));`;

const IMPORTED = 'UNION ALL SELECT concat(e.body, e.before) FROM public.import_entries e WHERE e.organisation_id =';
const ofPieces = (organisation: string) =>
  `UNION ALL SELECT concat(o.print, o.backdrop) FROM public.hand_outs o WHERE o.organisation_id = ${organisation}`;
const OF_CARD = 'SELECT concat(c.lines, c.blocks, c.opens, c.words, c.look, c.notice,';

/** What names a picture: by the texts that are looked into before one is taken away, and those that go with a card. */
const NAMING: [signature: string, change: [from: string, to: string]][] = [
  ['forget_unnamed_files(timestamptz)', [`${IMPORTED} one.id`, `${IMPORTED} one.id ${ofPieces('one.id')}`]],
  [
    'forget_files_of(uuid, text[])',
    [`${IMPORTED} organisation`, `${IMPORTED} organisation ${ofPieces('organisation')}`],
  ],
  [
    'erase_card(uuid)',
    [
      OF_CARD,
      `${OF_CARD} (SELECT string_agg(concat(h.print, h.backdrop), '') FROM public.hand_outs h WHERE h.card_id = wanted),`,
    ],
  ],
];

/**
 * Lines get ticks for backdrops, which say who is speaking, and for passes, which say what paper says and is for work or open: what is private somebody ticked
 * for paper, and for nothing else. Both are hand-outs; a backdrop keeps how
 * it is made up, a pass the token that its phone fetches it by.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    UPDATE cards c SET lines = (
      SELECT jsonb_agg(
        jsonb_set(
          jsonb_set(line, '{ticks,pass}', to_jsonb(printed AND (line->>'detail' = 'name' OR open) IS TRUE)), '{ticks,backdrop}',
          to_jsonb(printed AND (line->>'detail' = 'name' OR d->>'kind' IN ('title', 'organisation')) IS TRUE)
        ) ORDER BY at)
      FROM (
        SELECT line, at, d, printed, d->>'kind' IN ('title', 'organisation')
          OR (d->>'kind' IN ('phone', 'email') AND d->'uses' @> '["work"]'::jsonb)
          OR (d->>'kind' = 'link' AND NOT d->'uses' @> '["home"]'::jsonb) AS open
        FROM (
          SELECT line, at, coalesce((line->'ticks'->>'print')::boolean, false) AS printed,
            coalesce(nullif(line->'own', 'null'::jsonb),
              (SELECT d FROM records r, jsonb_array_elements(r.body->'details') d WHERE r.id = c.record_id AND d->>'id' = line->>'detail' LIMIT 1)) AS d
          FROM jsonb_array_elements(c.lines) WITH ORDINALITY l(line, at)
        ) of_record
      ) each)
    WHERE jsonb_typeof(c.lines) = 'array' AND jsonb_array_length(c.lines) > 0;
    ${channels([...BEFORE, 'backdrop', 'pass'])}
    ALTER TABLE hand_outs ADD COLUMN backdrop jsonb, ADD COLUMN pass_token text CHECK (pass_token ~ '^[A-Za-z0-9_-]{32}$');
    ALTER TABLE hand_outs ADD CONSTRAINT hand_outs_pass_has_token CHECK ((channel = 'pass') = (pass_token IS NOT NULL));
    GRANT UPDATE (backdrop) ON hand_outs TO ${APP};
    ${NAMING.map(([signature, change]) => rewriting(signature, change)).join('')}
    -- The stand-in authority that signs passes where no certificate is set: made once, its key closed by the installation's own secret.
    CREATE TABLE pass_authority (
      only_one boolean PRIMARY KEY DEFAULT true CHECK (only_one),
      certificate text NOT NULL,
      authority text NOT NULL,
      key text NOT NULL,
      created_at timestamptz NOT NULL DEFAULT now()
    );
    GRANT SELECT, INSERT, DELETE ON pass_authority TO ${APP};
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    DROP TABLE pass_authority;
    ${NAMING.map(([signature, [from, to]]) => rewriting(signature, [to, from])).join('')}
    DELETE FROM hand_outs WHERE channel IN ('backdrop', 'pass');
    ALTER TABLE hand_outs DROP COLUMN backdrop, DROP COLUMN pass_token;
    ${channels(BEFORE)}
    UPDATE cards c SET lines = (
      SELECT jsonb_agg(line #- '{ticks,pass}' #- '{ticks,backdrop}' ORDER BY at) FROM jsonb_array_elements(c.lines) WITH ORDINALITY l(line, at))
    WHERE jsonb_typeof(c.lines) = 'array' AND jsonb_array_length(c.lines) > 0;
  `);
}
