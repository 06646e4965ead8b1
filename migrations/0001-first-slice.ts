import type { Knex } from 'knex';

/** The role group that every application role belongs to. It owns nothing and cannot bypass row-level security. */
const APP = 'heathland_app';
/** The tenant that the transaction runs for; an empty string, left by a pooled connection, is no tenant. */
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;

const TENANT_TABLES = ['records', 'pictures', 'cards', 'revisions', 'hand_outs', 'visitor_secrets'];

export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    DO $$ BEGIN
      IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = '${APP}') THEN CREATE ROLE ${APP} NOLOGIN; END IF;
    EXCEPTION WHEN duplicate_object OR unique_violation THEN NULL; -- another database of this cluster migrates too
    END $$;

    CREATE TABLE organisations (
      id uuid PRIMARY KEY,
      name text NOT NULL,
      country char(2) NOT NULL,
      time_zone text NOT NULL,
      created_at timestamptz NOT NULL DEFAULT now()
    );

    -- Outside the tenants: who signs in is known before the tenant is.
    CREATE TABLE users (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL REFERENCES organisations,
      email text NOT NULL UNIQUE CHECK (email = lower(email)),
      password_hash text NOT NULL,
      name text NOT NULL,
      role text NOT NULL CHECK (role IN ('owner')),
      created_at timestamptz NOT NULL DEFAULT now()
    );
    CREATE TABLE sessions (
      token_hash bytea PRIMARY KEY,
      user_id uuid NOT NULL REFERENCES users ON DELETE CASCADE,
      created_at timestamptz NOT NULL DEFAULT now(),
      expires_at timestamptz NOT NULL
    );
    CREATE INDEX ON sessions (user_id);
    -- Requests by kind and asker within a window; the asker is a keyed hash. Lost with a crash, which does no harm.
    CREATE UNLOGGED TABLE rate_counts (
      key_hash bytea NOT NULL,
      ends_at timestamptz NOT NULL,
      count integer NOT NULL,
      PRIMARY KEY (key_hash, ends_at)
    );

    CREATE TABLE records (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL REFERENCES organisations,
      written_name text NOT NULL,
      body jsonb NOT NULL,
      version integer NOT NULL DEFAULT 1,
      created_at timestamptz NOT NULL DEFAULT now(),
      updated_at timestamptz NOT NULL DEFAULT now()
    );
    CREATE INDEX ON records (organisation_id, written_name);

    -- A picture by the hash of what was given, with the hashes of its sizes in the file store.
    CREATE TABLE pictures (
      organisation_id uuid NOT NULL REFERENCES organisations,
      hash text NOT NULL,
      width integer NOT NULL,
      height integer NOT NULL,
      page_hash text NOT NULL,
      file_hash text NOT NULL,
      created_at timestamptz NOT NULL DEFAULT now(),
      PRIMARY KEY (organisation_id, hash)
    );

    CREATE TABLE cards (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL REFERENCES organisations,
      record_id uuid NOT NULL REFERENCES records ON DELETE CASCADE,
      audience text NOT NULL,
      is_private boolean NOT NULL DEFAULT false,
      state text NOT NULL DEFAULT 'draft' CHECK (state IN ('draft', 'published', 'resting', 'retired')),
      lines jsonb NOT NULL,
      version integer NOT NULL DEFAULT 1,
      created_at timestamptz NOT NULL DEFAULT now(),
      updated_at timestamptz NOT NULL DEFAULT now()
    );
    CREATE INDEX ON cards (record_id);

    CREATE TABLE revisions (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL REFERENCES organisations,
      card_id uuid NOT NULL REFERENCES cards ON DELETE CASCADE,
      number integer NOT NULL,
      composition jsonb NOT NULL,
      published_by uuid NOT NULL REFERENCES users,
      published_at timestamptz NOT NULL,
      UNIQUE (card_id, number)
    );

    CREATE TABLE hand_outs (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL REFERENCES organisations,
      card_id uuid NOT NULL REFERENCES cards ON DELETE CASCADE,
      code char(8) NOT NULL UNIQUE,
      placement text NOT NULL,
      created_at timestamptz NOT NULL
    );
    CREATE INDEX ON hand_outs (card_id);

    -- The directory of public addresses and codes: what a recipient asks for is known before the tenant is.
    -- Rows are never removed, so that an address or code is never given to anybody else.
    CREATE TABLE directory_cards (card_id uuid PRIMARY KEY, organisation_id uuid NOT NULL, version integer NOT NULL DEFAULT 1);
    CREATE TABLE directory_addresses (
      name text PRIMARY KEY,
      skeleton text NOT NULL UNIQUE,
      card_id uuid NOT NULL REFERENCES directory_cards,
      is_current boolean NOT NULL,
      created_at timestamptz NOT NULL DEFAULT now()
    );
    CREATE UNIQUE INDEX ON directory_addresses (card_id) WHERE is_current;
    CREATE TABLE directory_codes (code char(8) PRIMARY KEY, card_id uuid NOT NULL REFERENCES directory_cards, hand_out_id uuid NOT NULL);

    -- What recipients did, as it comes in: one row for each group commit, so that a view costs next to nothing while a
    -- recipient waits. The application may only add to it. No address, no cookie.
    CREATE TABLE event_inbox (id uuid PRIMARY KEY, events json NOT NULL, received_at timestamptz NOT NULL DEFAULT now());
    CREATE INDEX ON event_inbox (received_at);

    -- The same events taken apart, read by their tenant alone.
    CREATE TABLE events (
      organisation_id uuid NOT NULL,
      card_id uuid NOT NULL,
      hand_out_id uuid,
      kind text NOT NULL,
      line text,
      visitor bytea,
      occurred_at timestamptz NOT NULL
    );
    CREATE INDEX events_of_card ON events (card_id, occurred_at) INCLUDE (kind);

    -- Moves what came in, at most as many commits as asked for, from the inbox to the events; answers with how many
    -- commits it moved. Runs as the owner, for all tenants; who comes second waits, so that nobody reads half of it.
    CREATE FUNCTION sort_event_inbox(most integer) RETURNS integer LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public AS $$
    DECLARE moved integer;
    BEGIN
      PERFORM pg_advisory_xact_lock(hashtext('heathland event inbox'));
      WITH taken AS (
        DELETE FROM public.event_inbox WHERE id IN (SELECT id FROM public.event_inbox ORDER BY received_at LIMIT most) RETURNING events
      ), added AS (
        INSERT INTO public.events (organisation_id, card_id, hand_out_id, kind, line, visitor, occurred_at)
        SELECT e.organisation, e.card, e."handOut", e.kind, e.line, decode(e.visitor, 'hex'), to_timestamp(e.at / 1000.0)
        FROM taken, json_to_recordset(taken.events)
          AS e(organisation uuid, card uuid, "handOut" uuid, kind text, line text, visitor text, at double precision)
      )
      SELECT count(*) INTO moved FROM taken;
      RETURN moved;
    END $$;
    REVOKE ALL ON FUNCTION sort_event_inbox(integer) FROM PUBLIC;
    GRANT EXECUTE ON FUNCTION sort_event_inbox(integer) TO ${APP};

    CREATE TABLE visitor_secrets (
      organisation_id uuid NOT NULL REFERENCES organisations,
      day date NOT NULL,
      secret bytea NOT NULL,
      PRIMARY KEY (organisation_id, day)
    );

    -- Destroys the secrets of days that have ended where the organisation is. Runs as the owner, for all tenants.
    CREATE FUNCTION destroy_ended_visitor_secrets() RETURNS integer LANGUAGE sql SECURITY DEFINER SET search_path = pg_catalog, public AS $$
      WITH gone AS (
        DELETE FROM public.visitor_secrets s USING public.organisations o
        WHERE o.id = s.organisation_id AND s.day < (now() AT TIME ZONE o.time_zone)::date RETURNING 1
      ) SELECT count(*)::integer FROM gone
    $$;
    REVOKE ALL ON FUNCTION destroy_ended_visitor_secrets() FROM PUBLIC;
    GRANT EXECUTE ON FUNCTION destroy_ended_visitor_secrets() TO ${APP};

    ALTER TABLE organisations ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON organisations USING (id = ${TENANT}) WITH CHECK (id = ${TENANT});
    ALTER TABLE events ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant_reads ON events FOR SELECT USING (organisation_id = ${TENANT});
    ${TENANT_TABLES.map(
      (table) => `ALTER TABLE ${table} ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON ${table} USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});`,
    ).join('\n')}

    GRANT USAGE ON SCHEMA public TO ${APP};
    GRANT SELECT, INSERT, UPDATE ON organisations, records, cards TO ${APP};
    GRANT SELECT, INSERT ON users, revisions, hand_outs, pictures, directory_codes TO ${APP};
    GRANT SELECT ON events TO ${APP};
    GRANT INSERT ON event_inbox TO ${APP};
    GRANT SELECT, INSERT ON visitor_secrets TO ${APP};
    GRANT SELECT, INSERT, UPDATE, DELETE ON sessions, rate_counts TO ${APP};
    GRANT SELECT, INSERT, UPDATE (version) ON directory_cards TO ${APP};
    GRANT SELECT, INSERT, UPDATE (is_current) ON directory_addresses TO ${APP};
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    DROP FUNCTION destroy_ended_visitor_secrets();
    DROP FUNCTION sort_event_inbox(integer);
    DROP TABLE event_inbox, events, visitor_secrets, directory_codes, directory_addresses, directory_cards, hand_outs, revisions, cards,
      pictures, records, rate_counts, sessions, users, organisations;
    REVOKE USAGE ON SCHEMA public FROM ${APP};
  `);
}
