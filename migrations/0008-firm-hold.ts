import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;

/** Columns that name a file of the store; a backup takes every column of this type, so that a new table cannot be forgotten. */
const FILES: [table: string, columns: string[]][] = [
  ['pictures', ['hash', 'page_hash', 'file_hash']],
  ['films', ['hash']],
  ['imports', ['file']],
];

const typed = (type: string) =>
  FILES.map(
    ([table, columns]) =>
      `ALTER TABLE ${table} ${columns.map((column) => `ALTER COLUMN ${column} TYPE ${type}`).join(', ')};`,
  ).join('\n');

export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    CREATE DOMAIN stored_file AS text CHECK (VALUE ~ '^[0-9a-f]{64}$');
    ${typed('stored_file')}

    -- What went wrong with one row of a sweep, a plan or a job, so that its owner sees it; gone once it works.
    CREATE TABLE faults (
      organisation_id uuid NOT NULL REFERENCES organisations,
      sweep text NOT NULL,
      subject text NOT NULL DEFAULT '',
      code text NOT NULL,
      count integer NOT NULL DEFAULT 1,
      first_at timestamptz NOT NULL DEFAULT now(),
      last_at timestamptz NOT NULL DEFAULT now(),
      PRIMARY KEY (organisation_id, sweep, subject)
    );
    ALTER TABLE faults ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON faults USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    GRANT SELECT, INSERT, UPDATE, DELETE ON faults TO ${APP};

    -- Only a zone that this server knows: one that it does not would stop what depends on days. Rows of before stay as they are.
    CREATE FUNCTION knows_time_zone(zone text) RETURNS boolean LANGUAGE plpgsql STABLE SET search_path = pg_catalog, public AS $$
    BEGIN
      PERFORM now() AT TIME ZONE zone;
      RETURN true;
    EXCEPTION WHEN OTHERS THEN RETURN false;
    END $$;
    ALTER TABLE organisations ADD CONSTRAINT organisations_time_zone_known CHECK (knows_time_zone(time_zone)) NOT VALID;

    -- Destroys the secrets of days that have ended where the organisation is, one organisation after the other. Where its day
    -- cannot be told the last zone on earth decides. Runs as the owner; answers with the organisations that are at fault.
    DROP FUNCTION destroy_ended_visitor_secrets();
    CREATE FUNCTION destroy_ended_visitor_secrets() RETURNS TABLE (organisation_id uuid, code text)
      LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public AS $$
    #variable_conflict use_column
    DECLARE
      one record;
    BEGIN
      FOR one IN
        SELECT o.id, o.time_zone FROM public.organisations o
        WHERE EXISTS (SELECT FROM public.visitor_secrets s WHERE s.organisation_id = o.id)
      LOOP
        BEGIN
          DELETE FROM public.visitor_secrets s WHERE s.organisation_id = one.id AND s.day < (now() AT TIME ZONE one.time_zone)::date;
          DELETE FROM public.faults f WHERE f.organisation_id = one.id AND f.sweep = 'visitor secrets';
        EXCEPTION WHEN OTHERS THEN
          DELETE FROM public.visitor_secrets s WHERE s.organisation_id = one.id AND s.day < (now() AT TIME ZONE 'Etc/GMT+12')::date;
          INSERT INTO public.faults (organisation_id, sweep, code) VALUES (one.id, 'visitor secrets', SQLSTATE)
            ON CONFLICT (organisation_id, sweep, subject)
            DO UPDATE SET count = faults.count + 1, last_at = now(), code = excluded.code;
          organisation_id := one.id;
          code := SQLSTATE;
          RETURN NEXT;
        END;
      END LOOP;
    END $$;
    REVOKE ALL ON FUNCTION destroy_ended_visitor_secrets() FROM PUBLIC;
    GRANT EXECUTE ON FUNCTION destroy_ended_visitor_secrets() TO ${APP};

    -- A plan that fails for no reason of its own is tried again, each time later.
    ALTER TABLE plans ADD COLUMN tries integer NOT NULL DEFAULT 0, ADD COLUMN retry_at timestamptz;
    CREATE OR REPLACE FUNCTION due_plans(at timestamptz) RETURNS TABLE (organisation_id uuid, card_id uuid)
      LANGUAGE sql SECURITY DEFINER SET search_path = pg_catalog, public AS $$
      SELECT p.organisation_id, p.card_id FROM public.plans p
      WHERE ((p.publish_at <= at AND p.problem IS NULL) OR p.ends_at <= at) AND (p.retry_at IS NULL OR p.retry_at <= at)
      ORDER BY least(p.publish_at, p.ends_at) LIMIT 100
    $$;

    -- Secrets that processes may start with, by a fingerprint that tells nothing of them; each has a database login of its own.
    CREATE TABLE known_secrets (fingerprint text PRIMARY KEY, since timestamptz NOT NULL DEFAULT now());
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    DROP TABLE known_secrets;
    CREATE OR REPLACE FUNCTION due_plans(at timestamptz) RETURNS TABLE (organisation_id uuid, card_id uuid)
      LANGUAGE sql SECURITY DEFINER SET search_path = pg_catalog, public AS $$
      SELECT p.organisation_id, p.card_id FROM public.plans p
      WHERE (p.publish_at <= at AND p.problem IS NULL) OR p.ends_at <= at ORDER BY least(p.publish_at, p.ends_at) LIMIT 100
    $$;
    ALTER TABLE plans DROP COLUMN tries, DROP COLUMN retry_at;
    DROP FUNCTION destroy_ended_visitor_secrets();
    CREATE FUNCTION destroy_ended_visitor_secrets() RETURNS integer LANGUAGE sql SECURITY DEFINER SET search_path = pg_catalog, public AS $$
      WITH gone AS (
        DELETE FROM public.visitor_secrets s USING public.organisations o
        WHERE o.id = s.organisation_id AND s.day < (now() AT TIME ZONE o.time_zone)::date RETURNING 1
      ) SELECT count(*)::integer FROM gone
    $$;
    REVOKE ALL ON FUNCTION destroy_ended_visitor_secrets() FROM PUBLIC;
    GRANT EXECUTE ON FUNCTION destroy_ended_visitor_secrets() TO ${APP};
    ALTER TABLE organisations DROP CONSTRAINT organisations_time_zone_known;
    DROP FUNCTION knows_time_zone(text);
    DROP TABLE faults;
    ${typed('text')}
    DROP DOMAIN stored_file;
  `);
}
