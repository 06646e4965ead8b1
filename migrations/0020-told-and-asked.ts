import type { Knex } from 'knex';

/** Whoever has a card, a person or a job on screen hears of its change by its id (NOTIFY), which tells nobody else anything. */
const TOLD: Record<string, string> = {
  cards: 'UPDATE OF version, state, deleted_at OR DELETE',
  records: 'UPDATE OF version, deleted_at OR DELETE',
  jobs: 'UPDATE OR DELETE',
};

const APP = 'heathland_app';
const USER = `id uuid, organisation_id uuid, email text, password_hash text, name text, role text, own_record uuid,
  must_change_password boolean, left_at timestamptz, totp_since timestamptz, session_id uuid, confirmed_at timestamptz`;
const OWN = `own_name text, own_country text, own_time_zone text, own_second_factor boolean, own_deleted_at timestamptz, own_defaults jsonb`;

/** Who holds a session, with what every request needs of their organisation: one question instead of six. `alone` where nobody else is a member. */
const ACTOR = `
  CREATE FUNCTION actor_by_session(wanted bytea, at timestamptz, idle interval) RETURNS TABLE (${USER}, ${OWN}, alone boolean)
  LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = pg_catalog, public AS $$
  #variable_conflict use_column
  BEGIN
    RETURN QUERY SELECT a.*, o.name, o.country::text, o.time_zone, o.second_factor, o.deleted_at, o.defaults,
      NOT EXISTS (SELECT FROM public.users m WHERE m.organisation_id = a.organisation_id AND m.left_at IS NULL AND m.id <> a.id)
      FROM public.account_by_session(wanted, at, idle) a JOIN public.organisations o ON o.id = a.organisation_id;
  END $$;
  REVOKE ALL ON FUNCTION actor_by_session(bytea, timestamptz, interval) FROM PUBLIC;
  GRANT EXECUTE ON FUNCTION actor_by_session(bytea, timestamptz, interval) TO ${APP};`;

/** Jobs that ended before a time; what they made stays. */
const ENDED_JOBS = `
  CREATE FUNCTION forget_ended_jobs(before timestamptz) RETURNS void LANGUAGE sql VOLATILE SECURITY DEFINER SET search_path = pg_catalog, public AS $$
    DELETE FROM public.jobs j WHERE j.state IN ('done', 'failed', 'cancelled') AND j.updated_at < before
  $$;
  REVOKE ALL ON FUNCTION forget_ended_jobs(timestamptz) FROM PUBLIC;
  GRANT EXECUTE ON FUNCTION forget_ended_jobs(timestamptz) TO ${APP};`;

export const up = (knex: Knex): Promise<void> =>
  knex.raw(`
    CREATE FUNCTION change_is_told() RETURNS trigger LANGUAGE plpgsql SET search_path = pg_catalog AS $$
    BEGIN
      PERFORM pg_notify('heathland_changes', OLD.id::text);
      RETURN NULL;
    END $$;
    REVOKE ALL ON FUNCTION change_is_told() FROM PUBLIC;
    ${ACTOR}
    ${ENDED_JOBS}
    ${Object.entries(TOLD)
      .map(
        ([table, when]) =>
          `CREATE TRIGGER change_is_told AFTER ${when} ON ${table} FOR EACH ROW EXECUTE FUNCTION change_is_told();`,
      )
      .join('\n')}
  `);

export const down = (knex: Knex): Promise<void> =>
  knex.raw(`
    ${Object.keys(TOLD)
      .map((table) => `DROP TRIGGER change_is_told ON ${table};`)
      .join('\n')}
    DROP FUNCTION change_is_told();
    DROP FUNCTION actor_by_session(bytea, timestamptz, interval);
    DROP FUNCTION forget_ended_jobs(timestamptz);
  `);
