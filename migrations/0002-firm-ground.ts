import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;

export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    -- Members: more roles than the owner's, a holder's own record, a first password that must be changed. Who has left
    -- stays, so that the audit trail goes on telling their name; nobody signs in as them.
    ALTER TABLE users DROP CONSTRAINT users_role_check;
    ALTER TABLE users ADD CONSTRAINT users_role_check
      CHECK (role IN ('owner', 'administrator', 'brand keeper', 'holder', 'analyst'));
    ALTER TABLE users
      ADD COLUMN own_record uuid REFERENCES records ON DELETE SET NULL,
      ADD COLUMN must_change_password boolean NOT NULL DEFAULT false,
      ADD COLUMN left_at timestamptz;
    CREATE INDEX ON users (organisation_id);
    GRANT UPDATE (name, role, own_record, password_hash, must_change_password, left_at) ON users TO ${APP};

    -- The language of a card's texts for recipients; without one their browser chooses.
    ALTER TABLE cards ADD COLUMN language text;

    -- Who did what to what. Added to and never changed: the application has no right to.
    CREATE TABLE audit_trail (
      id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
      organisation_id uuid NOT NULL REFERENCES organisations,
      at timestamptz NOT NULL,
      user_id uuid REFERENCES users,
      act text NOT NULL,
      subject_kind text NOT NULL,
      subject_id text NOT NULL,
      data jsonb NOT NULL DEFAULT '{}'
    );
    CREATE INDEX ON audit_trail (organisation_id, at DESC);
    CREATE INDEX ON audit_trail (organisation_id, subject_id);

    -- Work that goes on by itself: what screens show of it. The queue itself belongs to its library.
    CREATE TABLE jobs (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL REFERENCES organisations,
      user_id uuid NOT NULL REFERENCES users,
      task text NOT NULL,
      input jsonb NOT NULL,
      state text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'running', 'done', 'failed', 'cancelled')),
      done integer NOT NULL DEFAULT 0,
      total integer,
      attempts integer NOT NULL DEFAULT 0,
      cancel_asked boolean NOT NULL DEFAULT false,
      result jsonb,
      problem jsonb,
      created_at timestamptz NOT NULL,
      updated_at timestamptz NOT NULL
    );
    CREATE INDEX ON jobs (organisation_id, created_at DESC);

    -- Processes that run jobs, by the name under which they lock them. One that is not seen any more has died.
    CREATE TABLE job_workers (worker_id text PRIMARY KEY, seen_at timestamptz NOT NULL DEFAULT now());

    -- The queue's tables belong to the owner; the application may ask for a job that it has written down, and no more.
    CREATE FUNCTION enqueue_job(job uuid, organisation uuid, task text) RETURNS void LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public AS $$
    BEGIN
      PERFORM graphile_worker.add_job(task, json_build_object('job', job, 'organisation', organisation), job_key => job::text, max_attempts => 5);
    END $$;
    REVOKE ALL ON FUNCTION enqueue_job(uuid, uuid, text) FROM PUBLIC;
    GRANT EXECUTE ON FUNCTION enqueue_job(uuid, uuid, text) TO ${APP};

    ${['audit_trail', 'jobs']
      .map(
        (table) => `ALTER TABLE ${table} ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON ${table} USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});`,
      )
      .join('\n')}
    GRANT SELECT, INSERT ON audit_trail TO ${APP};
    GRANT SELECT, INSERT, UPDATE ON jobs TO ${APP};
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    DROP FUNCTION enqueue_job(uuid, uuid, text);
    ALTER TABLE cards DROP COLUMN language;
    DROP TABLE job_workers, jobs, audit_trail;
    REVOKE UPDATE (name, role, own_record, password_hash, must_change_password, left_at) ON users FROM ${APP};
    ALTER TABLE users DROP COLUMN own_record, DROP COLUMN must_change_password, DROP COLUMN left_at;
    DROP INDEX users_organisation_id_idx;
    DELETE FROM sessions WHERE user_id IN (SELECT id FROM users WHERE role <> 'owner');
    ALTER TABLE users DROP CONSTRAINT users_role_check;
    -- What is no owner must not become one: their password stops working.
    UPDATE users SET role = 'owner', password_hash = '!' WHERE role <> 'owner';
    ALTER TABLE users ADD CONSTRAINT users_role_check CHECK (role IN ('owner'));
  `);
}
