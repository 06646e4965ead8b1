import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;

const COLUMNS = `u.id, u.organisation_id, u.email, u.password_hash, u.name, u.role, u.own_record, u.must_change_password, u.left_at`;
const OLD_USER = `id uuid, organisation_id uuid, email text, password_hash text, name text, role text, own_record uuid,
  must_change_password boolean, left_at timestamptz`;
const USER = `${OLD_USER}, totp_since timestamptz`;

const asOwner = (head: string, returns: string, body: string, language = 'sql', kind = 'STABLE') => `
  CREATE FUNCTION ${head} RETURNS ${returns} LANGUAGE ${language} ${kind} SECURITY DEFINER SET search_path = pg_catalog, public AS $$ ${body} $$;
  REVOKE ALL ON FUNCTION ${head} FROM PUBLIC;
  GRANT EXECUTE ON FUNCTION ${head} TO ${APP};`;

export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    -- Sessions that their owner can tell apart and end; what was confirmed by the password lately.
    ALTER TABLE sessions
      ADD COLUMN id uuid NOT NULL DEFAULT gen_random_uuid() UNIQUE,
      ADD COLUMN device text NOT NULL DEFAULT '',
      ADD COLUMN seen_at timestamptz NOT NULL DEFAULT now(),
      ADD COLUMN confirmed_at timestamptz NOT NULL DEFAULT now();

    -- Second factor: the key that an authenticator app holds as well; "since" when its first code was right. A step is used once.
    ALTER TABLE users
      ADD COLUMN totp_secret text,
      ADD COLUMN totp_since timestamptz,
      ADD COLUMN totp_step bigint NOT NULL DEFAULT 0;
    GRANT UPDATE (totp_secret, totp_since, totp_step) ON users TO ${APP};
    ALTER TABLE organisations ADD COLUMN second_factor boolean NOT NULL DEFAULT false;

    CREATE TABLE recovery_codes (
      organisation_id uuid NOT NULL,
      user_id uuid NOT NULL,
      code_hash bytea NOT NULL,
      PRIMARY KEY (user_id, code_hash),
      FOREIGN KEY (organisation_id, user_id) REFERENCES users (organisation_id, id) ON DELETE CASCADE
    );
    -- Browsers that somebody has signed in with, by a hash: who guesses elsewhere does not slow these down.
    CREATE TABLE known_devices (
      organisation_id uuid NOT NULL,
      user_id uuid NOT NULL,
      device_hash bytea NOT NULL,
      last_at timestamptz NOT NULL,
      PRIMARY KEY (user_id, device_hash),
      FOREIGN KEY (organisation_id, user_id) REFERENCES users (organisation_id, id) ON DELETE CASCADE
    );
    ${['recovery_codes', 'known_devices']
      .map(
        (table) => `ALTER TABLE ${table} ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON ${table} USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    GRANT SELECT, INSERT, UPDATE, DELETE ON ${table} TO ${APP};`,
      )
      .join('\n')}

    DROP FUNCTION account_by_email(text);
    ${asOwner(
      'account_by_email(wanted text)',
      `TABLE (${USER})`,
      `SELECT ${COLUMNS}, u.totp_since FROM public.users u WHERE u.email = wanted AND u.left_at IS NULL`,
    )}
    DROP FUNCTION account_by_session(bytea, timestamptz);
    -- Whoever holds a session that has neither ended nor stood unused for too long. That it was used is noted every few minutes.
    ${asOwner(
      'account_by_session(wanted bytea, at timestamptz, idle interval)',
      `TABLE (${USER}, session_id uuid, confirmed_at timestamptz)`,
      `
      BEGIN
        UPDATE public.sessions s SET seen_at = at WHERE s.token_hash = wanted AND s.seen_at < at - interval '5 minutes' AND s.seen_at > at - idle;
        RETURN QUERY SELECT ${COLUMNS}, u.totp_since, s.id, s.confirmed_at FROM public.sessions s JOIN public.users u ON u.id = s.user_id
          WHERE s.token_hash = wanted AND s.expires_at > at AND s.seen_at > at - idle AND u.left_at IS NULL;
      END`,
      'plpgsql',
      'VOLATILE',
    )}
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    DROP FUNCTION account_by_session(bytea, timestamptz, interval);
    ${asOwner(
      'account_by_session(wanted bytea, at timestamptz)',
      `TABLE (${OLD_USER})`,
      `SELECT ${COLUMNS} FROM public.sessions s JOIN public.users u ON u.id = s.user_id
       WHERE s.token_hash = wanted AND s.expires_at > at AND u.left_at IS NULL`,
    )}
    DROP FUNCTION account_by_email(text);
    ${asOwner('account_by_email(wanted text)', `TABLE (${OLD_USER})`, `SELECT ${COLUMNS} FROM public.users u WHERE u.email = wanted AND u.left_at IS NULL`)}
    DROP TABLE known_devices, recovery_codes;
    ALTER TABLE organisations DROP COLUMN second_factor;
    REVOKE UPDATE (totp_secret, totp_since, totp_step) ON users FROM ${APP};
    ALTER TABLE users DROP COLUMN totp_secret, DROP COLUMN totp_since, DROP COLUMN totp_step;
    ALTER TABLE sessions DROP COLUMN id, DROP COLUMN device, DROP COLUMN seen_at, DROP COLUMN confirmed_at;
  `);
}
