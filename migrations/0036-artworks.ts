import type { Knex } from 'knex';
import { rewriting } from './rewriting';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;

const OF_CARD = 'SELECT concat(c.lines, c.blocks, c.opens, c.words, c.look, c.notice,';
const MADE =
  'UNION SELECT m.file::text FROM public.made_files m WHERE m.organisation_id = wanted AND m.file IS NOT NULL';

/** The designs of a card's pieces go with it, and all of an organisation's with that. */
const ERASING: [signature: string, change: [from: string, to: string]][] = [
  [
    'erase_card(uuid)',
    [
      OF_CARD,
      `${OF_CARD} (SELECT string_agg(a.file, ' ') FROM public.artworks a JOIN public.hand_outs h ON h.id = a.hand_out_id WHERE h.card_id = wanted),`,
    ],
  ],
  [
    'erase_organisation(uuid)',
    [MADE, `${MADE} UNION SELECT a.file::text FROM public.artworks a WHERE a.organisation_id = wanted`],
  ],
];

/**
 * Somebody's own finished design that a piece is printed on, one row a side, as it was taken in; and links by which a designer fetches what a piece
 * is made of, until a day.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    CREATE TABLE artworks (
      hand_out_id uuid NOT NULL,
      side text NOT NULL CHECK (side IN ('front', 'back')),
      organisation_id uuid NOT NULL REFERENCES organisations,
      file stored_file NOT NULL,
      name text NOT NULL CHECK (length(name) <= 120),
      bytes bigint NOT NULL,
      artwork jsonb NOT NULL,
      created_at timestamptz NOT NULL,
      PRIMARY KEY (hand_out_id, side),
      FOREIGN KEY (organisation_id, hand_out_id) REFERENCES hand_outs (organisation_id, id) ON DELETE CASCADE
    );
    CREATE INDEX artworks_of_hand_out ON artworks (organisation_id, hand_out_id);
    ALTER TABLE artworks ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON artworks USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    GRANT SELECT, INSERT, UPDATE, DELETE ON artworks TO ${APP};
    ${ERASING.map(([signature, change]) => rewriting(signature, change)).join('')}
    CREATE TABLE designer_links (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL REFERENCES organisations,
      hand_out_id uuid NOT NULL,
      token_hash bytea NOT NULL UNIQUE CHECK (length(token_hash) = 32),
      ends_at timestamptz NOT NULL,
      fetched integer NOT NULL DEFAULT 0,
      created_at timestamptz NOT NULL,
      FOREIGN KEY (organisation_id, hand_out_id) REFERENCES hand_outs (organisation_id, id) ON DELETE CASCADE
    );
    CREATE INDEX designer_links_of_hand_out ON designer_links (organisation_id, hand_out_id, created_at DESC);
    ALTER TABLE designer_links ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON designer_links USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    GRANT SELECT, INSERT, UPDATE, DELETE ON designer_links TO ${APP};
    CREATE FUNCTION designer_link_by(token bytea) RETURNS TABLE (organisation_id uuid, hand_out_id uuid, id uuid, ends_at timestamptz)
    LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog AS $$
      SELECT l.organisation_id, l.hand_out_id, l.id, l.ends_at FROM public.designer_links l
      JOIN public.organisations o ON o.id = l.organisation_id
      WHERE l.token_hash = token AND o.deleted_at IS NULL AND o.erased_at IS NULL
    $$;
    REVOKE ALL ON FUNCTION designer_link_by(bytea) FROM PUBLIC;
    GRANT EXECUTE ON FUNCTION designer_link_by(bytea) TO ${APP};
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    DROP FUNCTION designer_link_by(bytea);
    DROP TABLE designer_links;
    ${ERASING.map(([signature, [from, to]]) => rewriting(signature, [to, from])).join('')}
    DROP TABLE artworks;
  `);
}
