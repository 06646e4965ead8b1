import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;

type Key = [table: string, column: string, target: string, onDelete?: 'CASCADE' | 'SET NULL'];

/** Every foreign key between rows of organisations, as it was named before: from now on it carries the organisation. */
const KEYS: Key[] = [
  ['cards', 'record_id', 'records', 'CASCADE'],
  ['cards', 'instead', 'cards', 'SET NULL'],
  ['revisions', 'card_id', 'cards', 'CASCADE'],
  ['revisions', 'published_by', 'users'],
  ['hand_outs', 'card_id', 'cards', 'CASCADE'],
  ['plans', 'card_id', 'cards', 'CASCADE'],
  ['plans', 'planned_by', 'users'],
  ['failing_proofs', 'card_id', 'cards', 'CASCADE'],
  ['imports', 'user_id', 'users'],
  ['import_entries', 'import_id', 'imports', 'CASCADE'],
  ['import_entries', 'record_id', 'records', 'SET NULL'],
  ['jobs', 'user_id', 'users'],
  ['audit_trail', 'user_id', 'users'],
  ['looks', 'user_id', 'users', 'CASCADE'],
  ['house_styles', 'saved_by', 'users', 'SET NULL'],
  ['pictures', 'added_by', 'users', 'SET NULL'],
  ['films', 'added_by', 'users', 'SET NULL'],
  ['users', 'own_record', 'records', 'SET NULL'],
  ['sessions', 'user_id', 'users', 'CASCADE'],
  ['directory_addresses', 'card_id', 'directory_cards'],
  ['directory_codes', 'card_id', 'directory_cards'],
];
const TARGETS = ['records', 'cards', 'users', 'imports', 'directory_cards'];
const idOf = (table: string) => (table === 'directory_cards' ? 'card_id' : 'id');
const onDelete = (action: Key[3], column: string) =>
  action ? ` ON DELETE ${action}${action === 'SET NULL' ? ` (${column})` : ''}` : '';

const NEW_TENANTS = [
  'users',
  'sessions',
  'directory_cards',
  'directory_addresses',
  'directory_codes',
  'directory_previews',
  'directory_prefixes',
];

/** A function of the owner for exactly one thing, which the application may call. */
const asOwner = (head: string, returns: string, body: string, language = 'sql', kind = 'STABLE') => `
  CREATE FUNCTION ${head} RETURNS ${returns} LANGUAGE ${language} ${kind} SECURITY DEFINER SET search_path = pg_catalog, public AS $$ ${body} $$;
  REVOKE ALL ON FUNCTION ${head} FROM PUBLIC;
  GRANT EXECUTE ON FUNCTION ${head} TO ${APP};`;

const ENTRY = 'TABLE (card_id uuid, organisation_id uuid, version integer, hand_out_id uuid)';
const USER = `TABLE (id uuid, organisation_id uuid, email text, password_hash text, name text, role text, own_record uuid,
  must_change_password boolean, left_at timestamptz)`;
const USER_COLUMNS = `u.id, u.organisation_id, u.email, u.password_hash, u.name, u.role, u.own_record, u.must_change_password, u.left_at`;

export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    -- What leads from an address, a code or a session to its organisation says so itself.
    ALTER TABLE directory_addresses ADD COLUMN organisation_id uuid;
    UPDATE directory_addresses a SET organisation_id = c.organisation_id FROM directory_cards c WHERE c.card_id = a.card_id;
    ALTER TABLE directory_addresses ALTER COLUMN organisation_id SET NOT NULL;
    ALTER TABLE directory_codes ADD COLUMN organisation_id uuid;
    UPDATE directory_codes h SET organisation_id = c.organisation_id FROM directory_cards c WHERE c.card_id = h.card_id;
    ALTER TABLE directory_codes ALTER COLUMN organisation_id SET NOT NULL;
    ALTER TABLE sessions ADD COLUMN organisation_id uuid;
    UPDATE sessions s SET organisation_id = u.organisation_id FROM users u WHERE u.id = s.user_id;
    ALTER TABLE sessions ALTER COLUMN organisation_id SET NOT NULL;

    ${TARGETS.map((table) => `ALTER TABLE ${table} ADD CONSTRAINT ${table}_own UNIQUE (organisation_id, ${idOf(table)});`).join('\n')}
    -- A row of before that names another organisation's loses that name, where it may be missing.
    ${KEYS.filter(([, , , action]) => action === 'SET NULL')
      .map(
        ([table, column, target]) =>
          `UPDATE ${table} x SET ${column} = NULL WHERE ${column} IS NOT NULL AND NOT EXISTS (SELECT FROM ${target} t WHERE t.id = x.${column} AND t.organisation_id = x.organisation_id);`,
      )
      .join('\n')}
    ${KEYS.map(
      ([table, column, target, action]) => `
      ALTER TABLE ${table} DROP CONSTRAINT ${table}_${column}_fkey;
      ALTER TABLE ${table} ADD CONSTRAINT ${table}_${column}_fkey FOREIGN KEY (organisation_id, ${column})
        REFERENCES ${target} (organisation_id, ${idOf(target)})${onDelete(action, column)};`,
    ).join('\n')}

    -- A mail address belongs to whoever signs in with it; who was removed somewhere may make an account elsewhere.
    ALTER TABLE users DROP CONSTRAINT users_email_key;
    CREATE UNIQUE INDEX users_email_present ON users (email) WHERE left_at IS NULL;

    ${NEW_TENANTS.map(
      (table) => `ALTER TABLE ${table} ENABLE ROW LEVEL SECURITY;
      CREATE POLICY tenant ON ${table} USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});`,
    ).join('\n')}
    REVOKE INSERT, UPDATE, DELETE ON directory_prefixes FROM ${APP};
    REVOKE UPDATE (is_current) ON directory_prefixes FROM ${APP};
    REVOKE ALL ON rate_counts, event_inbox FROM ${APP};

    -- What is known before the tenant is: where an address, a code, a preview or a session leads, and no more.
    ${asOwner(
      'find_address(wanted text)',
      ENTRY,
      `SELECT c.card_id, c.organisation_id, c.version, NULL::uuid FROM public.directory_addresses a
       JOIN public.directory_cards c ON c.card_id = a.card_id WHERE a.name = wanted`,
    )}
    ${asOwner(
      'find_code(wanted text)',
      ENTRY,
      `SELECT c.card_id, c.organisation_id, c.version, h.hand_out_id FROM public.directory_codes h
       JOIN public.directory_cards c ON c.card_id = h.card_id WHERE h.code = wanted::char(8)`,
    )}
    ${asOwner(
      'find_preview(wanted bytea)',
      'TABLE (card_id uuid, organisation_id uuid, expires_at timestamptz)',
      `SELECT p.card_id, p.organisation_id, p.expires_at FROM public.directory_previews p WHERE p.token_hash = wanted`,
    )}
    ${asOwner('card_version(wanted uuid)', 'integer', `SELECT c.version FROM public.directory_cards c WHERE c.card_id = wanted`)}
    ${asOwner(
      'address_owner(wanted text, looks_like text)',
      'TABLE (name text, card_id uuid)',
      `SELECT a.name, a.card_id FROM public.directory_addresses a WHERE a.name = wanted OR a.skeleton = looks_like ORDER BY a.name = wanted DESC LIMIT 1`,
    )}
    ${asOwner(
      'other_prefix_of(start text, organisation uuid)',
      'text',
      `SELECT p.prefix FROM public.directory_prefixes p WHERE p.organisation_id <> organisation AND starts_with(start, p.prefix || '-') LIMIT 1`,
    )}
    ${asOwner('account_by_email(wanted text)', USER, `SELECT ${USER_COLUMNS} FROM public.users u WHERE u.email = wanted AND u.left_at IS NULL`)}
    ${asOwner(
      'account_by_session(wanted bytea, at timestamptz)',
      USER,
      `SELECT ${USER_COLUMNS} FROM public.sessions s JOIN public.users u ON u.id = s.user_id
       WHERE s.token_hash = wanted AND s.expires_at > at AND u.left_at IS NULL`,
    )}
    ${asOwner('end_session(wanted bytea)', 'void', 'DELETE FROM public.sessions s WHERE s.token_hash = wanted', 'sql', 'VOLATILE')}
    ${asOwner('forget_ended_sessions(at timestamptz)', 'void', 'DELETE FROM public.sessions s WHERE s.expires_at < at', 'sql', 'VOLATILE')}
    ${asOwner('forget_ended_previews(at timestamptz)', 'void', 'DELETE FROM public.directory_previews p WHERE p.expires_at < at', 'sql', 'VOLATILE')}
    ${asOwner(
      'count_request(key bytea, ends timestamptz)',
      'integer',
      `INSERT INTO public.rate_counts AS r (key_hash, ends_at, count) VALUES (key, ends, 1)
       ON CONFLICT (key_hash, ends_at) DO UPDATE SET count = r.count + 1 RETURNING r.count`,
      'sql',
      'VOLATILE',
    )}
    ${asOwner('forget_requests(key bytea)', 'void', 'DELETE FROM public.rate_counts r WHERE r.key_hash = key', 'sql', 'VOLATILE')}
    ${asOwner('forget_ended_windows(at timestamptz)', 'void', 'DELETE FROM public.rate_counts r WHERE r.ends_at < at', 'sql', 'VOLATILE')}

    -- The inbox takes well-formed rows only, of cards and codes that there are; answers with today's version of each card. Without
    -- an organisation's rows being read: whoever calls it gets nothing but numbers of versions that any recipient's answer tells.
    ${asOwner(
      'record_events(commit_id uuid, given json)',
      'TABLE (card_id uuid, version integer)',
      `
      BEGIN
        RETURN QUERY WITH e AS MATERIALIZED (
          SELECT * FROM json_to_recordset(given)
            AS e(organisation uuid, card uuid, "handOut" uuid, kind text, line text, visitor text, at double precision)
        ), good AS MATERIALIZED (
          SELECT e.card, c.version FROM e JOIN public.directory_cards c ON c.card_id = e.card AND c.organisation_id = e.organisation
          WHERE e.kind IN ('view', 'save', 'tap', 'bot') AND coalesce(length(e.line), 0) <= 60
            AND (e.visitor IS NULL OR e.visitor ~ '^[0-9a-f]{32}$') AND e.at BETWEEN 0 AND 1e14
        ), checked AS MATERIALIZED (
          SELECT (SELECT count(*) FROM good) = (SELECT count(*) FROM e) AND (SELECT count(*) FROM e) <= 1000 AS passed
        ), added AS (
          INSERT INTO public.event_inbox (id, events) SELECT commit_id, given FROM checked WHERE passed ON CONFLICT DO NOTHING
        )
        SELECT DISTINCT good.card, good.version FROM good, checked WHERE checked.passed;
        IF NOT FOUND THEN
          RAISE EXCEPTION 'an event is not well-formed' USING ERRCODE = 'check_violation';
        END IF;
      END`,
      'plpgsql',
      'VOLATILE',
    )}

    -- What could not be sorted, for whoever runs the installation to look at.
    CREATE TABLE event_rejects (id uuid PRIMARY KEY, events json NOT NULL, received_at timestamptz NOT NULL, code text NOT NULL);
    DROP FUNCTION sort_event_inbox(integer);
    ${asOwner(
      'sort_event_inbox(most integer)',
      'TABLE (moved integer, passed_over integer)',
      `
      DECLARE one record;
      BEGIN
        PERFORM pg_advisory_xact_lock(hashtext('heathland event inbox'));
        passed_over := 0;
        BEGIN
          WITH taken AS (
            DELETE FROM public.event_inbox WHERE id IN (SELECT id FROM public.event_inbox ORDER BY received_at LIMIT most) RETURNING events
          ), added AS (
            INSERT INTO public.events (organisation_id, card_id, hand_out_id, kind, line, visitor, occurred_at)
            SELECT e.organisation, e.card, e."handOut", e.kind, e.line, decode(e.visitor, 'hex'), to_timestamp(e.at / 1000.0)
            FROM taken, json_to_recordset(taken.events)
              AS e(organisation uuid, card uuid, "handOut" uuid, kind text, line text, visitor text, at double precision)
          )
          SELECT count(*) INTO moved FROM taken;
          RETURN NEXT;
          RETURN;
        EXCEPTION WHEN OTHERS THEN
          -- One of them is at fault: one after the other.
          moved := 0;
        END;
        FOR one IN SELECT i.id, i.events, i.received_at FROM public.event_inbox i ORDER BY i.received_at LIMIT most LOOP
          BEGIN
            INSERT INTO public.events (organisation_id, card_id, hand_out_id, kind, line, visitor, occurred_at)
            SELECT e.organisation, e.card, e."handOut", e.kind, e.line, decode(e.visitor, 'hex'), to_timestamp(e.at / 1000.0)
            FROM json_to_recordset(one.events)
              AS e(organisation uuid, card uuid, "handOut" uuid, kind text, line text, visitor text, at double precision);
          EXCEPTION WHEN OTHERS THEN
            INSERT INTO public.event_rejects (id, events, received_at, code) VALUES (one.id, one.events, one.received_at, SQLSTATE);
            passed_over := passed_over + 1;
          END;
          DELETE FROM public.event_inbox WHERE id = one.id;
          moved := moved + 1;
        END LOOP;
        RETURN NEXT;
      END`,
      'plpgsql',
      'VOLATILE',
    )}

    -- A beginning of addresses is asked for in Company and given by the operator alone, one an organisation.
    CREATE TABLE prefix_requests (
      organisation_id uuid PRIMARY KEY REFERENCES organisations,
      prefix text NOT NULL,
      asked_by uuid NOT NULL,
      asked_at timestamptz NOT NULL,
      FOREIGN KEY (organisation_id, asked_by) REFERENCES users (organisation_id, id)
    );
    ALTER TABLE prefix_requests ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON prefix_requests USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    GRANT SELECT, INSERT, UPDATE, DELETE ON prefix_requests TO ${APP};

    -- What an organisation's files take, so that there is an end to it.
    ALTER TABLE pictures ADD COLUMN bytes integer NOT NULL DEFAULT 0;
    ALTER TABLE imports ADD COLUMN bytes integer NOT NULL DEFAULT 0;
    -- Who gave the same file as well: whoever has it may show it.
    ALTER TABLE pictures ADD COLUMN also_by uuid[] NOT NULL DEFAULT '{}';
    ALTER TABLE films ADD COLUMN also_by uuid[] NOT NULL DEFAULT '{}';
    GRANT UPDATE (also_by) ON pictures, films TO ${APP};

    -- Pictures and films that nothing of an organisation has named since an instant: neither record nor card nor revision nor house
    -- style. One organisation after the other; one at fault costs only itself.
    GRANT DELETE ON pictures, films TO ${APP};
    ${asOwner(
      'forget_unnamed_files(before timestamptz)',
      'TABLE (organisation_id uuid, code text)',
      `
      #variable_conflict use_column
      DECLARE one record;
      BEGIN
        FOR one IN SELECT o.id FROM public.organisations o LOOP
          BEGIN
            WITH texts AS (
              SELECT body::text AS t FROM public.records r WHERE r.organisation_id = one.id
              UNION ALL SELECT concat(c.lines, c.blocks, c.opens, c.words, c.look) FROM public.cards c WHERE c.organisation_id = one.id
              UNION ALL SELECT concat(v.composition, v.draft) FROM public.revisions v WHERE v.organisation_id = one.id
              UNION ALL SELECT h.style::text FROM public.house_styles h WHERE h.organisation_id = one.id
              UNION ALL SELECT l.look::text FROM public.looks l WHERE l.organisation_id = one.id
              UNION ALL SELECT concat(e.body, e.before) FROM public.import_entries e WHERE e.organisation_id = one.id
            ), named AS MATERIALIZED (
              SELECT DISTINCT m[1] AS hash FROM texts, regexp_matches(t, '[0-9a-f]{64}', 'g') m
            ), pictures_gone AS (
              DELETE FROM public.pictures p WHERE p.organisation_id = one.id AND p.created_at < before
                AND NOT EXISTS (SELECT FROM named n WHERE n.hash = p.hash)
            )
            DELETE FROM public.films f WHERE f.organisation_id = one.id AND f.created_at < before
              AND NOT EXISTS (SELECT FROM named n WHERE n.hash = f.hash);
            DELETE FROM public.faults f WHERE f.organisation_id = one.id AND f.sweep = 'files';
          EXCEPTION WHEN OTHERS THEN
            INSERT INTO public.faults (organisation_id, sweep, code) VALUES (one.id, 'files', SQLSTATE)
              ON CONFLICT (organisation_id, sweep, subject)
              DO UPDATE SET count = faults.count + 1, last_at = now(), code = excluded.code;
            organisation_id := one.id;
            code := SQLSTATE;
            RETURN NEXT;
          END;
        END LOOP;
      END`,
      'plpgsql',
      'VOLATILE',
    )}
    -- Which of these files any row of anybody names, by the columns that name files.
    ${asOwner(
      'files_named(wanted text[])',
      'SETOF text',
      `
      DECLARE one record;
      BEGIN
        FOR one IN SELECT c.table_name::text AS t, c.column_name::text AS c FROM information_schema.columns c
          WHERE c.table_schema = 'public' AND c.domain_name = 'stored_file'
        LOOP
          RETURN QUERY EXECUTE format('SELECT DISTINCT %I::text FROM public.%I WHERE %I = ANY($1)', one.c, one.t, one.c) USING wanted;
        END LOOP;
      END`,
      'plpgsql',
    )}
  `);
}

export async function down(knex: Knex): Promise<void> {
  const functions = [
    'find_address(text)',
    'find_code(text)',
    'find_preview(bytea)',
    'card_version(uuid)',
    'address_owner(text, text)',
    'other_prefix_of(text, uuid)',
    'account_by_email(text)',
    'account_by_session(bytea, timestamptz)',
    'end_session(bytea)',
    'forget_ended_sessions(timestamptz)',
    'forget_ended_previews(timestamptz)',
    'count_request(bytea, timestamptz)',
    'forget_requests(bytea)',
    'forget_ended_windows(timestamptz)',
    'record_events(uuid, json)',
    'sort_event_inbox(integer)',
    'forget_unnamed_files(timestamptz)',
    'files_named(text[])',
  ];
  await knex.raw(`
    ${functions.map((each) => `DROP FUNCTION ${each};`).join('\n')}
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
    DROP TABLE event_rejects, prefix_requests;
    REVOKE DELETE ON pictures, films FROM ${APP};
    ALTER TABLE pictures DROP COLUMN bytes;
    ALTER TABLE imports DROP COLUMN bytes;
    REVOKE UPDATE (also_by) ON pictures, films FROM ${APP};
    ALTER TABLE pictures DROP COLUMN also_by;
    ALTER TABLE films DROP COLUMN also_by;
    ${NEW_TENANTS.map((table) => `DROP POLICY tenant ON ${table}; ALTER TABLE ${table} DISABLE ROW LEVEL SECURITY;`).join('\n')}
    GRANT SELECT, INSERT, UPDATE (is_current) ON directory_prefixes TO ${APP};
    GRANT SELECT, INSERT, UPDATE, DELETE ON rate_counts TO ${APP};
    GRANT INSERT ON event_inbox TO ${APP};
    DROP INDEX users_email_present;
    -- Of those with one address who has left keeps another.
    UPDATE users SET email = 'left-' || id || '@invalid' WHERE left_at IS NOT NULL;
    ALTER TABLE users ADD CONSTRAINT users_email_key UNIQUE (email);
    ${KEYS.map(
      ([table, column, target, action]) => `
      ALTER TABLE ${table} DROP CONSTRAINT ${table}_${column}_fkey;
      ALTER TABLE ${table} ADD CONSTRAINT ${table}_${column}_fkey FOREIGN KEY (${column}) REFERENCES ${target} (${idOf(target)})${action ? ` ON DELETE ${action}` : ''};`,
    ).join('\n')}
    ${TARGETS.map((table) => `ALTER TABLE ${table} DROP CONSTRAINT ${table}_own;`).join('\n')}
    ALTER TABLE sessions DROP COLUMN organisation_id;
    ALTER TABLE directory_codes DROP COLUMN organisation_id;
    ALTER TABLE directory_addresses DROP COLUMN organisation_id;
  `);
}
