import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;
/** Hidden rows are there for a transaction that says so, which brings them back or tells of them, and for no other. */
const SHOWN = `(deleted_at IS NULL OR current_setting('heathland.deleted', true) = 'shown')`;

const asOwner = (head: string, returns: string, body: string, granted = true) => `
  CREATE FUNCTION ${head} RETURNS ${returns} LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = pg_catalog, public AS $$ ${body} $$;
  REVOKE ALL ON FUNCTION ${head} FROM PUBLIC;
  ${granted ? `GRANT EXECUTE ON FUNCTION ${head} TO ${APP};` : ''}`;

/** What may name a file by its hash, of one organisation: the same texts as those that the sweep of unnamed files looks into. */
const TEXTS = `
  SELECT body::text AS t FROM public.records r WHERE r.organisation_id = organisation
  UNION ALL SELECT concat(c.lines, c.blocks, c.opens, c.words, c.look) FROM public.cards c WHERE c.organisation_id = organisation
  UNION ALL SELECT concat(v.composition, v.draft) FROM public.revisions v WHERE v.organisation_id = organisation
  UNION ALL SELECT concat(p.composition, p.draft) FROM public.plans p WHERE p.organisation_id = organisation
  UNION ALL SELECT h.style::text FROM public.house_styles h WHERE h.organisation_id = organisation
  UNION ALL SELECT l.look::text FROM public.looks l WHERE l.organisation_id = organisation
  UNION ALL SELECT concat(e.body, e.before) FROM public.import_entries e WHERE e.organisation_id = organisation`;

const HASHES = `ARRAY(SELECT DISTINCT m[1] FROM regexp_matches(given, '[0-9a-f]{64}', 'g') m)`;

/** Tables of an organisation that are emptied with it, those that name others first. Addresses, codes and beginnings stay reserved. */
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

export async function up(knex: Knex): Promise<void> {
  await knex.raw(
    `
    ALTER TABLE records ADD COLUMN deleted_at timestamptz;
    ALTER TABLE cards ADD COLUMN deleted_at timestamptz;
    ALTER TABLE organisations ADD COLUMN deleted_at timestamptz, ADD COLUMN erased_at timestamptz;
    CREATE INDEX ON records (deleted_at) WHERE deleted_at IS NOT NULL;
    CREATE INDEX ON cards (deleted_at) WHERE deleted_at IS NOT NULL;
    ${['records', 'cards']
      .map(
        (table) => `DROP POLICY tenant ON ${table};
    CREATE POLICY tenant ON ${table} USING (organisation_id = ${TENANT} AND ${SHOWN}) WITH CHECK (organisation_id = ${TENANT});`,
      )
      .join('\n')}

    -- A plan of a deleted organisation waits until it is brought back.
    CREATE OR REPLACE FUNCTION due_plans(at timestamptz) RETURNS TABLE (organisation_id uuid, card_id uuid)
      LANGUAGE sql SECURITY DEFINER SET search_path = pg_catalog, public AS $$
      SELECT p.organisation_id, p.card_id FROM public.plans p JOIN public.organisations o ON o.id = p.organisation_id
      WHERE ((p.publish_at <= at AND p.problem IS NULL) OR p.ends_at <= at) AND (p.retry_at IS NULL OR p.retry_at <= at)
        AND o.deleted_at IS NULL
      ORDER BY least(p.publish_at, p.ends_at) LIMIT 100
    $$;

    -- Files of an organisation that nothing of it names any more, of these hashes: their rows go, and the names of their files are told.
    ${asOwner(
      'forget_files_of(organisation uuid, wanted text[])',
      'SETOF text',
      `
      BEGIN
        RETURN QUERY WITH named AS MATERIALIZED (
          SELECT w FROM unnest(wanted) w WHERE EXISTS (SELECT FROM (${TEXTS}) texts WHERE position(w IN t) > 0)
        ), pictures_gone AS (
          DELETE FROM public.pictures p WHERE p.organisation_id = organisation AND p.hash = ANY(wanted)
            AND p.hash NOT IN (SELECT w FROM named) RETURNING p.hash, p.page_hash, p.file_hash
        ), films_gone AS (
          DELETE FROM public.films f WHERE f.organisation_id = organisation AND f.hash = ANY(wanted)
            AND f.hash NOT IN (SELECT w FROM named) RETURNING f.hash
        )
        SELECT unnest(ARRAY[g.hash::text, g.page_hash::text, g.file_hash::text]) FROM pictures_gone g
        UNION SELECT g.hash::text FROM films_gone g;
      END`,
    )}

    -- Erases one card, one record with its cards, or an organisation; answers with everything in them that looks like a file's hash.
    ${asOwner(
      'erase_card(wanted uuid)',
      'text[]',
      `
      DECLARE given text;
      BEGIN
        SELECT concat(c.lines, c.blocks, c.opens, c.words, c.look, c.notice,
          (SELECT string_agg(concat(v.composition, v.draft), '') FROM public.revisions v WHERE v.card_id = wanted),
          (SELECT concat(p.composition, p.draft) FROM public.plans p WHERE p.card_id = wanted))
        INTO given FROM public.cards c WHERE c.id = wanted;
        DELETE FROM public.directory_previews WHERE card_id = wanted;
        DELETE FROM public.events WHERE card_id = wanted;
        DELETE FROM public.event_rejects WHERE position(wanted::text IN events::text) > 0;
        UPDATE public.import_entries SET made_card = NULL WHERE made_card = wanted;
        DELETE FROM public.cards WHERE id = wanted;
        RETURN ${HASHES};
      END`,
      false,
    )}
    ${asOwner(
      'erase_record(wanted uuid)',
      'text[]',
      `
      DECLARE given text; hashes text[] := '{}'; one uuid;
      BEGIN
        FOR one IN SELECT id FROM public.cards WHERE record_id = wanted LOOP
          hashes := hashes || public.erase_card(one);
        END LOOP;
        SELECT concat(r.body, (SELECT string_agg(concat(e.body, e.before), '') FROM public.import_entries e
          WHERE e.record_id = wanted OR e.made_record = wanted)) INTO given FROM public.records r WHERE r.id = wanted;
        DELETE FROM public.import_entries WHERE record_id = wanted OR made_record = wanted;
        DELETE FROM public.records WHERE id = wanted;
        RETURN hashes || ${HASHES};
      END`,
      false,
    )}
    ${asOwner(
      'erase_organisation(wanted uuid)',
      'text[]',
      `
      DECLARE hashes text[];
      BEGIN
        hashes := ARRAY(SELECT unnest(ARRAY[p.hash::text, p.page_hash::text, p.file_hash::text]) FROM public.pictures p WHERE p.organisation_id = wanted
          UNION SELECT f.hash::text FROM public.films f WHERE f.organisation_id = wanted
          UNION SELECT i.file::text FROM public.imports i WHERE i.organisation_id = wanted AND i.file IS NOT NULL);
        DELETE FROM public.event_rejects WHERE position(wanted::text IN events::text) > 0;
        UPDATE public.users SET own_record = NULL WHERE organisation_id = wanted;
        ${EMPTIED.map((table) => `DELETE FROM public.${table} WHERE organisation_id = wanted;`).join('\n        ')}
        DELETE FROM public.records WHERE organisation_id = wanted;
        -- The audit trail keeps ids, and so do those whom it names.
        UPDATE public.users SET name = '', email = 'erased-' || id || '@invalid', password_hash = '!', totp_secret = NULL, totp_since = NULL,
          left_at = coalesce(left_at, now()) WHERE organisation_id = wanted;
        UPDATE public.organisations SET name = '', audiences = NULL, links = '{}', erased_at = now() WHERE id = wanted;
        RETURN hashes;
      END`,
      false,
    )}
    ${asOwner(
      'erase_member(wanted uuid)',
      'text[]',
      `
      BEGIN
        DELETE FROM public.looks WHERE user_id = wanted;
        DELETE FROM public.recovery_codes WHERE user_id = wanted;
        DELETE FROM public.known_devices WHERE user_id = wanted;
        UPDATE public.users SET name = '', email = 'erased-' || id || '@invalid', password_hash = '!', totp_secret = NULL, totp_since = NULL,
          own_record = NULL WHERE id = wanted;
        RETURN '{}';
      END`,
      false,
    )}
    ${asOwner(
      'erase_import(wanted uuid)',
      'text[]',
      `
      DECLARE given text;
      BEGIN
        SELECT concat(i.file, (SELECT string_agg(concat(e.body, e.before), '') FROM public.import_entries e WHERE e.import_id = wanted))
        INTO given FROM public.imports i WHERE i.id = wanted;
        DELETE FROM public.imports WHERE id = wanted;
        RETURN ${HASHES};
      END`,
      false,
    )}

    -- Everything whose time to be brought back is over, one after the other; one at fault costs only itself and is told to its owner.
    -- Answers with the hashes of files that each may have named.
    ${asOwner(
      'erase_ended(before timestamptz)',
      'TABLE (organisation_id uuid, kind text, subject uuid, hashes text[], code text)',
      `
      #variable_conflict use_column
      DECLARE one record;
      BEGIN
        FOR one IN
          SELECT o.id AS organisation, 'organisation' AS what, o.id FROM public.organisations o WHERE o.deleted_at < before AND o.erased_at IS NULL
          UNION ALL SELECT r.organisation_id, 'record', r.id FROM public.records r WHERE r.deleted_at < before
          UNION ALL SELECT c.organisation_id, 'card', c.id FROM public.cards c WHERE c.deleted_at < before
          UNION ALL SELECT u.organisation_id, 'member', u.id FROM public.users u WHERE u.left_at < before AND u.name <> ''
          UNION ALL SELECT i.organisation_id, 'import', i.id FROM public.imports i WHERE i.updated_at < before
          LIMIT 1000
        LOOP
          organisation_id := one.organisation;
          kind := one.what;
          subject := one.id;
          hashes := '{}';
          code := NULL;
          BEGIN
            EXECUTE format('SELECT public.%I($1)', 'erase_' || one.what) INTO hashes USING one.id;
            DELETE FROM public.faults f WHERE f.organisation_id = one.organisation AND f.sweep = 'deleted' AND f.subject = one.id::text;
          EXCEPTION WHEN OTHERS THEN
            code := SQLSTATE;
            hashes := '{}';
            INSERT INTO public.faults (organisation_id, sweep, subject, code) VALUES (one.organisation, 'deleted', one.id::text, SQLSTATE)
              ON CONFLICT (organisation_id, sweep, subject)
              DO UPDATE SET count = faults.count + 1, last_at = now(), code = excluded.code;
          END;
          RETURN NEXT;
        END LOOP;
      END`,
    )}
  `,
  );
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    -- What is hidden must not come back by itself.
    SELECT erase_record(id) FROM records WHERE deleted_at IS NOT NULL;
    SELECT erase_card(id) FROM cards WHERE deleted_at IS NOT NULL;
    SELECT erase_organisation(id) FROM organisations WHERE deleted_at IS NOT NULL AND erased_at IS NULL;
    DROP FUNCTION erase_ended(timestamptz);
    DROP FUNCTION erase_import(uuid);
    DROP FUNCTION erase_member(uuid);
    DROP FUNCTION erase_organisation(uuid);
    DROP FUNCTION erase_record(uuid);
    DROP FUNCTION erase_card(uuid);
    DROP FUNCTION forget_files_of(uuid, text[]);
    CREATE OR REPLACE FUNCTION due_plans(at timestamptz) RETURNS TABLE (organisation_id uuid, card_id uuid)
      LANGUAGE sql SECURITY DEFINER SET search_path = pg_catalog, public AS $$
      SELECT p.organisation_id, p.card_id FROM public.plans p
      WHERE ((p.publish_at <= at AND p.problem IS NULL) OR p.ends_at <= at) AND (p.retry_at IS NULL OR p.retry_at <= at)
      ORDER BY least(p.publish_at, p.ends_at) LIMIT 100
    $$;
    ${['records', 'cards']
      .map(
        (table) => `DROP POLICY tenant ON ${table};
    CREATE POLICY tenant ON ${table} USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    ALTER TABLE ${table} DROP COLUMN deleted_at;`,
      )
      .join('\n')}
    ALTER TABLE organisations DROP COLUMN deleted_at, DROP COLUMN erased_at;
  `);
}
