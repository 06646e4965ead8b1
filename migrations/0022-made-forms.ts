import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;
const RIGHTS = 'SECURITY DEFINER SET search_path = pg_catalog, public';
const HASHES = `ARRAY(SELECT DISTINCT m[1] FROM regexp_matches(given, '[0-9a-f]{64}', 'g') m)`;

/** What may name a file by its hash, of one organisation. */
const TEXTS = `
  SELECT body::text AS t FROM public.records r WHERE r.organisation_id = organisation
  UNION ALL SELECT concat(c.lines, c.blocks, c.opens, c.words, c.look) FROM public.cards c WHERE c.organisation_id = organisation
  UNION ALL SELECT concat(v.composition, v.draft) FROM public.revisions v WHERE v.organisation_id = organisation
  UNION ALL SELECT concat(p.composition, p.draft) FROM public.plans p WHERE p.organisation_id = organisation
  UNION ALL SELECT h.style::text FROM public.house_styles h WHERE h.organisation_id = organisation
  UNION ALL SELECT l.look::text FROM public.looks l WHERE l.organisation_id = organisation
  UNION ALL SELECT concat(e.body, e.before) FROM public.import_entries e WHERE e.organisation_id = organisation`;

/** Tables of an organisation that are emptied with it, those that name others first; what has cards goes with them. */
const EMPTIED = [
  'directory_previews',
  'events',
  'plans',
  'failing_proofs',
  'faults',
  'hand_outs',
  'revisions',
  'cards',
  'import_entries',
  'imports',
  'jobs',
  'looks',
  'house_styles',
  'pictures',
  'films',
  'visitor_secrets',
  'prefix_requests',
  'sessions',
  'recovery_codes',
  'known_devices',
];

/** The functions that erase, with or without what was made of pictures and cards. */
const erasing = (forms: string[], drawings: boolean) => {
  const sizes = (of: string) =>
    ['hash', 'page_hash', 'file_hash', ...forms].map((column) => `${of}.${column}::text`).join(', ');
  const ofCard = drawings ? `, (SELECT string_agg(d.file, ' ') FROM public.drawings d WHERE d.card_id = wanted)` : '';
  const ofAll = drawings ? `UNION SELECT d.file::text FROM public.drawings d WHERE d.organisation_id = wanted` : '';
  return `
    CREATE OR REPLACE FUNCTION forget_files_of(organisation uuid, wanted text[]) RETURNS SETOF text LANGUAGE plpgsql VOLATILE ${RIGHTS} AS $$
    BEGIN
      RETURN QUERY WITH named AS MATERIALIZED (
        SELECT w FROM unnest(wanted) w WHERE EXISTS (SELECT FROM (${TEXTS}) texts WHERE position(w IN t) > 0)
      ), pictures_gone AS (
        DELETE FROM public.pictures p WHERE p.organisation_id = organisation AND p.hash = ANY(wanted)
          AND p.hash NOT IN (SELECT w FROM named) RETURNING p.*
      ), films_gone AS (
        DELETE FROM public.films f WHERE f.organisation_id = organisation AND f.hash = ANY(wanted)
          AND f.hash NOT IN (SELECT w FROM named) RETURNING f.hash
      )
      SELECT h FROM pictures_gone g, unnest(ARRAY[${sizes('g')}]) h WHERE h IS NOT NULL
      UNION SELECT g.hash::text FROM films_gone g;
    END $$;
    CREATE OR REPLACE FUNCTION erase_card(wanted uuid) RETURNS text[] LANGUAGE plpgsql VOLATILE ${RIGHTS} AS $$
    DECLARE given text;
    BEGIN
      SELECT concat(c.lines, c.blocks, c.opens, c.words, c.look, c.notice,
        (SELECT string_agg(concat(v.composition, v.draft), '') FROM public.revisions v WHERE v.card_id = wanted),
        (SELECT concat(p.composition, p.draft) FROM public.plans p WHERE p.card_id = wanted)${ofCard})
      INTO given FROM public.cards c WHERE c.id = wanted;
      DELETE FROM public.directory_previews WHERE card_id = wanted;
      DELETE FROM public.events WHERE card_id = wanted;
      DELETE FROM public.event_rejects WHERE position(wanted::text IN events::text) > 0;
      UPDATE public.import_entries SET made_card = NULL WHERE made_card = wanted;
      DELETE FROM public.cards WHERE id = wanted;
      RETURN ${HASHES};
    END $$;
    CREATE OR REPLACE FUNCTION erase_organisation(wanted uuid) RETURNS text[] LANGUAGE plpgsql VOLATILE ${RIGHTS} AS $$
    DECLARE hashes text[];
    BEGIN
      hashes := ARRAY(SELECT h FROM public.pictures p, unnest(ARRAY[${sizes('p')}]) h WHERE p.organisation_id = wanted AND h IS NOT NULL
        UNION SELECT f.hash::text FROM public.films f WHERE f.organisation_id = wanted
        UNION SELECT i.file::text FROM public.imports i WHERE i.organisation_id = wanted AND i.file IS NOT NULL ${ofAll});
      DELETE FROM public.event_rejects WHERE position(wanted::text IN events::text) > 0;
      UPDATE public.users SET own_record = NULL WHERE organisation_id = wanted;
      ${EMPTIED.map((table) => `DELETE FROM public.${table} WHERE organisation_id = wanted;`).join('\n      ')}
      DELETE FROM public.records WHERE organisation_id = wanted;
      -- The audit trail keeps ids, and so do those whom it names.
      UPDATE public.users SET name = '', email = 'erased-' || id || '@invalid', password_hash = '!', totp_secret = NULL, totp_since = NULL,
        left_at = coalesce(left_at, now()) WHERE organisation_id = wanted;
      UPDATE public.organisations SET name = '', audiences = NULL, links = '{}', erased_at = now() WHERE id = wanted;
      RETURN hashes;
    END $$;`;
};

const FORMS = ['page_avif', 'broad_avif', 'page_webp'];

/**
 * What takes long to make is made once: lighter forms of a picture stand beside its sizes, drawings of a card as recipients get it are
 * kept by what they depend on, one of each name a card. All lie in the file store and are erased with what they were made of.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE imports RENAME COLUMN troubles TO warnings;
    ALTER TABLE import_entries RENAME COLUMN troubles TO warnings;
    ALTER TABLE pictures ${FORMS.map((form) => `ADD COLUMN ${form} stored_file`).join(', ')};
    CREATE TABLE drawings (
      card_id uuid NOT NULL,
      name text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
      organisation_id uuid NOT NULL REFERENCES organisations,
      key text NOT NULL CHECK (length(key) BETWEEN 1 AND 80),
      file stored_file NOT NULL,
      PRIMARY KEY (card_id, name),
      FOREIGN KEY (organisation_id, card_id) REFERENCES cards (organisation_id, id) ON DELETE CASCADE
    );
    CREATE INDEX drawings_of_card ON drawings (organisation_id, card_id);
    ALTER TABLE drawings ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON drawings USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    GRANT SELECT, INSERT, UPDATE ON drawings TO ${APP};
    GRANT UPDATE (${FORMS.join(', ')}) ON pictures TO ${APP};
    ${erasing(FORMS, true)}
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    ${erasing([], false)}
    ALTER TABLE imports RENAME COLUMN warnings TO troubles;
    ALTER TABLE import_entries RENAME COLUMN warnings TO troubles;
    DROP TABLE drawings;
    ALTER TABLE pictures ${FORMS.map((form) => `DROP COLUMN ${form}`).join(', ')};
  `);
}
