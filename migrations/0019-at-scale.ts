import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;
const RIGHTS = 'SECURITY DEFINER SET search_path = pg_catalog, public';

/** A function that runs as the owner, for the application to call. */
const asOwner = (head: string, returns: string, body: string, kind: 'STABLE' | 'VOLATILE' = 'STABLE') => `
  CREATE FUNCTION ${head} RETURNS ${returns} LANGUAGE plpgsql ${kind} ${RIGHTS} AS $$ ${body} $$;
  REVOKE ALL ON FUNCTION ${head} FROM PUBLIC;
  GRANT EXECUTE ON FUNCTION ${head} TO ${APP};`;

const onChange = (name: string, body: string) => `
  CREATE FUNCTION ${name}() RETURNS trigger LANGUAGE plpgsql ${RIGHTS} AS $$ BEGIN ${body} RETURN NULL; END $$;
  REVOKE ALL ON FUNCTION ${name}() FROM PUBLIC;`;

/** Two who change the same at once: whoever comes second writes what holds then. */
const WRITTEN_AGAIN = `
     ON CONFLICT (kind, id) DO UPDATE SET (name, about, words) = (excluded.name, excluded.about, excluded.words)`;

/** What of a record a list shows, as columns; the record itself stays the one place where it is written. */
const LISTED = `
  ALTER TABLE records
    ADD COLUMN title text GENERATED ALWAYS AS (jsonb_path_query_first(body, '$.details[*] \\? (@.kind == "title")') ->> 'text') STORED,
    ADD COLUMN firm text GENERATED ALWAYS AS (jsonb_path_query_first(body, '$.details[*] \\? (@.kind == "organisation")') ->> 'name') STORED,
    ADD COLUMN picture text GENERATED ALWAYS AS (jsonb_path_query_first(body, '$.details[*] \\? (@.kind == "photo")') ->> 'picture') STORED;
  CREATE INDEX records_listed ON records (organisation_id, written_name, id);
  DROP INDEX records_organisation_id_written_name_idx;
  -- What is hidden is not counted, and a count need not read what it counts.
  CREATE INDEX records_counted ON records (organisation_id, deleted_at);
  CREATE INDEX cards_counted ON cards (organisation_id, deleted_at);
  CREATE INDEX audit_trail_listed ON audit_trail (organisation_id, id);
  CREATE INDEX audit_trail_of_subject ON audit_trail (organisation_id, subject_id, id);
  DROP INDEX audit_trail_organisation_id_subject_id_idx;
  -- Erasing a record or card looks for the entries that name it.
  ${['record_id', 'made_record', 'made_card']
    .map((name) => `CREATE INDEX import_entries_by_${name} ON import_entries (${name}) WHERE ${name} IS NOT NULL;`)
    .join('\n  ')}`;

/**
 * What can be searched, a row a person, card and hand-out, kept by the database itself. ILIKE is not leakproof, so that row-level security
 * keeps a trigram index from being used: the function below looks as the owner, for the tenant of the transaction alone.
 */
const FINDABLE = `
  -- In a schema of their own, which a restored database finds where it was: that of our tables is swapped with what is in it.
  CREATE SCHEMA IF NOT EXISTS heathland_extensions;
  ${['pg_trgm', 'btree_gin']
    .map(
      (name) => `CREATE EXTENSION IF NOT EXISTS ${name} SCHEMA heathland_extensions;
  ALTER EXTENSION ${name} SET SCHEMA heathland_extensions;`,
    )
    .join('\n  ')}
  CREATE TABLE findable (
    organisation_id uuid NOT NULL REFERENCES organisations,
    kind text NOT NULL CHECK (kind IN ('person', 'card', 'hand-out')),
    id uuid NOT NULL,
    record_id uuid NOT NULL,
    card_id uuid,
    name text NOT NULL,
    about text NOT NULL,
    words text NOT NULL,
    PRIMARY KEY (kind, id),
    FOREIGN KEY (organisation_id, record_id) REFERENCES records (organisation_id, id) ON DELETE CASCADE,
    FOREIGN KEY (organisation_id, card_id) REFERENCES cards (organisation_id, id) ON DELETE CASCADE
  );
  CREATE INDEX findable_words ON findable USING gin (organisation_id, words heathland_extensions.gin_trgm_ops);
  CREATE INDEX findable_by_name ON findable (organisation_id, kind, name, id);
  CREATE INDEX findable_of_record ON findable (organisation_id, record_id);
  CREATE INDEX findable_of_card ON findable (organisation_id, card_id);
  ALTER TABLE findable ENABLE ROW LEVEL SECURITY;
  CREATE POLICY tenant ON findable USING (organisation_id = ${TENANT});

  CREATE FUNCTION searched(VARIADIC given text[]) RETURNS text LANGUAGE sql IMMUTABLE AS $$
    SELECT lower(normalize(array_to_string(given, ' '), NFKC)) $$;
  CREATE VIEW findable_rows AS
    SELECT r.organisation_id, 'person' AS kind, r.id, r.id AS record_id, NULL::uuid AS card_id, r.written_name AS name, '' AS about,
      searched(r.written_name, r.title, r.firm) AS words
    FROM records r WHERE r.deleted_at IS NULL
    UNION ALL
    SELECT c.organisation_id, 'card', c.id, r.id, c.id, r.written_name || ' · ' || c.audience, coalesce(a.name, ''),
      searched(r.written_name, r.title, r.firm, c.audience, a.name)
    FROM cards c JOIN records r ON r.id = c.record_id LEFT JOIN directory_addresses a ON a.card_id = c.id AND a.is_current
    WHERE c.deleted_at IS NULL AND r.deleted_at IS NULL
    UNION ALL
    SELECT h.organisation_id, 'hand-out', h.id, r.id, c.id, h.placement, h.code || ' · ' || r.written_name || ' · ' || c.audience,
      searched(h.placement, h.code, r.written_name, c.audience)
    FROM hand_outs h JOIN cards c ON c.id = h.card_id JOIN records r ON r.id = c.record_id
    WHERE c.deleted_at IS NULL AND r.deleted_at IS NULL;
  REVOKE ALL ON findable_rows FROM PUBLIC;

  ${onChange(
    'find_record_again',
    `DELETE FROM public.findable WHERE organisation_id = NEW.organisation_id AND record_id = NEW.id;
     INSERT INTO public.findable SELECT * FROM public.findable_rows WHERE organisation_id = NEW.organisation_id AND record_id = NEW.id${WRITTEN_AGAIN};`,
  )}
  ${onChange(
    'find_card_again',
    `DELETE FROM public.findable WHERE organisation_id = NEW.organisation_id AND card_id = NEW.id;
     INSERT INTO public.findable SELECT * FROM public.findable_rows WHERE organisation_id = NEW.organisation_id AND card_id = NEW.id${WRITTEN_AGAIN};`,
  )}
  ${onChange(
    'find_address_again',
    `DELETE FROM public.findable WHERE kind = 'card' AND id = NEW.card_id;
     INSERT INTO public.findable SELECT * FROM public.findable_rows WHERE kind = 'card' AND id = NEW.card_id${WRITTEN_AGAIN};`,
  )}
  ${onChange(
    'find_hand_out_again',
    `DELETE FROM public.findable WHERE kind = 'hand-out' AND id = coalesce(NEW.id, OLD.id);
     INSERT INTO public.findable SELECT * FROM public.findable_rows WHERE kind = 'hand-out' AND id = NEW.id${WRITTEN_AGAIN};`,
  )}
  CREATE TRIGGER find_made AFTER INSERT ON records FOR EACH ROW EXECUTE FUNCTION find_record_again();
  CREATE TRIGGER find_changed AFTER UPDATE ON records FOR EACH ROW
    WHEN ((OLD.written_name, OLD.title, OLD.firm, OLD.deleted_at) IS DISTINCT FROM (NEW.written_name, NEW.title, NEW.firm, NEW.deleted_at))
    EXECUTE FUNCTION find_record_again();
  CREATE TRIGGER find_made AFTER INSERT ON cards FOR EACH ROW EXECUTE FUNCTION find_card_again();
  CREATE TRIGGER find_changed AFTER UPDATE ON cards FOR EACH ROW
    WHEN ((OLD.audience, OLD.deleted_at) IS DISTINCT FROM (NEW.audience, NEW.deleted_at)) EXECUTE FUNCTION find_card_again();
  CREATE TRIGGER find_made AFTER INSERT OR UPDATE OF is_current ON directory_addresses FOR EACH ROW EXECUTE FUNCTION find_address_again();
  CREATE TRIGGER find_made AFTER INSERT OR DELETE OR UPDATE OF placement ON hand_outs FOR EACH ROW EXECUTE FUNCTION find_hand_out_again();
  INSERT INTO findable SELECT * FROM findable_rows;

  CREATE FUNCTION find_condition(words text[]) RETURNS text LANGUAGE sql IMMUTABLE AS $$
    SELECT coalesce(string_agg(format('f.words LIKE %L', '%' || regexp_replace(searched(w), '([\\\\%_])', '\\\\\\1', 'g') || '%'), ' AND '), 'false')
    FROM unnest(words) w $$;
  ${asOwner(
    'find_by_words(words text[], within uuid[], most integer)',
    'TABLE (kind text, id uuid, card_id uuid, name text, about text)',
    `
    DECLARE tenant uuid := ${TENANT};
    BEGIN
      IF tenant IS NULL THEN RETURN; END IF;
      -- Of each kind the first by name: a word that is everywhere is met at once that way, and a rare one by its letters.
      RETURN QUERY EXECUTE (
        SELECT string_agg(format('(SELECT f.kind, f.id, f.card_id, f.name, f.about FROM public.findable f WHERE f.organisation_id = $1
          AND f.kind = %L AND ($2 IS NULL OR f.record_id = ANY ($2)) AND %s ORDER BY f.name, f.id LIMIT $3)', k, public.find_condition(words)), ' UNION ALL ')
          || ' LIMIT $3' FROM unnest(ARRAY['person', 'card', 'hand-out']) k
      ) USING tenant, within, most;
    END`,
  )}
  ${asOwner(
    'find_people(words text[])',
    'TABLE (record_id uuid)',
    `
    DECLARE tenant uuid := ${TENANT};
    BEGIN
      IF tenant IS NULL THEN RETURN; END IF;
      RETURN QUERY EXECUTE 'SELECT DISTINCT f.record_id FROM public.findable f WHERE f.organisation_id = $1 AND f.kind <> ''hand-out''
        AND ' || public.find_condition(words) USING tenant;
    END`,
  )}`;

/** By what a person is known again, each a hash; null of records written before that. Overlap of arrays is not leakproof either. */
const MARKS = `
  ALTER TABLE records ADD COLUMN marks text[];
  CREATE INDEX records_marks ON records USING gin (organisation_id, marks);
  CREATE INDEX records_without_marks ON records (organisation_id) WHERE marks IS NULL;
  ${asOwner(
    'records_marked(wanted text[])',
    'TABLE (id uuid, mark text)',
    `
    DECLARE tenant uuid := ${TENANT};
    BEGIN
      IF tenant IS NULL THEN RETURN; END IF;
      RETURN QUERY SELECT r.id, m FROM public.records r, unnest(r.marks) m
        WHERE r.organisation_id = tenant AND r.deleted_at IS NULL AND r.marks && wanted AND m = ANY (wanted);
    END`,
  )}`;

const FIGURES = ['views', 'visits', 'visitors', 'saves', 'taps', 'without_visitor', 'bots'];
const figures = FIGURES.map((name) => `${name} integer NOT NULL DEFAULT 0`).join(', ');

/** A zone that this server does not know costs its organisation its figures, and nobody else theirs. */
const ZONE = `CASE WHEN public.knows_time_zone(o.time_zone) THEN o.time_zone ELSE 'UTC' END`;

/** Local days on which events lie. */
const daysOf = (events: string, where = 'true') => `
  WITH found AS MATERIALIZED (
    SELECT e.organisation_id, e.occurred_at FROM ${events} e WHERE ${where}
  ), zones AS MATERIALIZED (
    SELECT o.id, ${ZONE} AS zone FROM public.organisations o WHERE o.id IN (SELECT organisation_id FROM found)
  )
  INSERT INTO public.response_days (organisation_id, day)
  SELECT DISTINCT f.organisation_id, (f.occurred_at AT TIME ZONE z.zone)::date FROM found f JOIN zones z ON z.id = f.organisation_id ORDER BY 1, 2
  ON CONFLICT (organisation_id, day) DO UPDATE SET due = true, touched = response_days.touched + 1`;

/**
 * The figures of ended days, so that no report reads all events again. A day whose events change is due again by itself: \`touched\` tells
 * whoever has counted it that something came in meanwhile.
 */
const RESPONSE = `
  CREATE TABLE response_days (
    organisation_id uuid NOT NULL REFERENCES organisations,
    day date NOT NULL,
    due boolean NOT NULL DEFAULT true,
    touched integer NOT NULL DEFAULT 0,
    ${figures},
    PRIMARY KEY (organisation_id, day)
  );
  CREATE INDEX response_days_due ON response_days (day) WHERE due;
  CREATE TABLE response_figures (
    organisation_id uuid NOT NULL,
    day date NOT NULL,
    card_id uuid NOT NULL,
    hand_out_id uuid,
    ${figures},
    card_visitors integer NOT NULL DEFAULT 0,
    FOREIGN KEY (organisation_id, day) REFERENCES response_days (organisation_id, day) ON DELETE CASCADE
  );
  CREATE INDEX response_figures_of_day ON response_figures (organisation_id, day);
  CREATE INDEX response_figures_by_hand_out ON response_figures (organisation_id, day)
    INCLUDE (hand_out_id, views, visits, visitors, saves, taps) WHERE hand_out_id IS NOT NULL;
  CREATE INDEX response_figures_of_card ON response_figures (organisation_id, card_id, day);
  ${['response_days', 'response_figures']
    .map(
      (table) => `ALTER TABLE ${table} ENABLE ROW LEVEL SECURITY;
  CREATE POLICY tenant ON ${table} USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});`,
    )
    .join('\n  ')}
  GRANT SELECT, UPDATE ON response_days TO ${APP};
  GRANT SELECT, INSERT, DELETE ON response_figures TO ${APP};

  ${onChange('days_are_due', `${daysOf('fresh')};`)}
  CREATE TRIGGER days_are_due AFTER INSERT ON events REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT EXECUTE FUNCTION days_are_due();
  CREATE TRIGGER days_are_due_again AFTER DELETE ON events REFERENCING OLD TABLE AS fresh FOR EACH STATEMENT EXECUTE FUNCTION days_are_due();
  -- What is hidden is not counted.
  ${onChange('days_of_card_are_due', `${daysOf('public.events', 'e.card_id = NEW.id')};`)}
  CREATE TRIGGER days_are_due AFTER UPDATE OF deleted_at ON cards FOR EACH ROW
    WHEN (OLD.deleted_at IS DISTINCT FROM NEW.deleted_at) EXECUTE FUNCTION days_of_card_are_due();
  ${onChange(
    'days_begin_elsewhere',
    `DELETE FROM public.response_days WHERE organisation_id = NEW.id;
     IF NEW.erased_at IS NULL THEN ${daysOf('public.events', 'e.organisation_id = NEW.id')}; END IF;`,
  )}
  CREATE TRIGGER days_begin_elsewhere AFTER UPDATE OF time_zone, erased_at ON organisations FOR EACH ROW
    WHEN ((OLD.time_zone, OLD.erased_at) IS DISTINCT FROM (NEW.time_zone, NEW.erased_at)) EXECUTE FUNCTION days_begin_elsewhere();
  ${daysOf('public.events')};

  -- Days that are over and due, of whichever organisation, the latest first; one that was at fault waits an hour.
  ${asOwner(
    'due_response_days(at timestamptz, most integer)',
    'TABLE (organisation_id uuid, day text, time_zone text)',
    `
    #variable_conflict use_column
    BEGIN
      RETURN QUERY SELECT d.organisation_id, d.day::text, o.time_zone FROM public.response_days d JOIN public.organisations o ON o.id = d.organisation_id
        WHERE d.due AND d.day < (at AT TIME ZONE ${ZONE})::date AND NOT EXISTS (SELECT FROM public.faults f
          WHERE f.organisation_id = d.organisation_id AND f.sweep = 'figures' AND f.subject = d.day::text AND f.last_at > at - interval '1 hour')
        ORDER BY d.day DESC LIMIT most;
    END`,
  )}`;

/**
 * Saving is automatic: what somebody changes in one go is one line of the audit trail, which says since when and how many times. Nothing
 * else of the trail can be changed.
 */
const CHANGES = asOwner(
  'note_change(what text, kind text, subject text, who uuid, now timestamptz, given jsonb)',
  'void',
  `
    DECLARE tenant uuid := ${TENANT}; last record;
    BEGIN
      SELECT a.id, a.act, a.user_id, a.at, a.data INTO last FROM public.audit_trail a
        WHERE a.organisation_id = tenant AND a.subject_id = subject ORDER BY a.id DESC LIMIT 1;
      IF what IN ('card.changed', 'record.changed') AND last.act = what AND last.user_id = who AND now - last.at BETWEEN '0' AND interval '10 minutes'
        AND now - coalesce((last.data->>'since')::timestamptz, last.at) < interval '1 hour' THEN
        UPDATE public.audit_trail SET at = now, data = data || given || jsonb_build_object(
          'since', coalesce(last.data->>'since', to_char(last.at AT TIME ZONE 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"')),
          'times', coalesce((last.data->>'times')::int, 1) + 1) WHERE id = last.id;
      ELSE
        INSERT INTO public.audit_trail (organisation_id, at, user_id, act, subject_kind, subject_id, data)
          VALUES (tenant, now, who, what, kind, subject, given);
      END IF;
    END`,
  'VOLATILE',
);

export const up = (knex: Knex): Promise<void> => knex.raw([LISTED, FINDABLE, MARKS, RESPONSE, CHANGES].join('\n'));

export const down = (knex: Knex): Promise<void> =>
  knex.raw(`
    DROP FUNCTION note_change(text, text, text, uuid, timestamptz, jsonb);
    DROP FUNCTION due_response_days(timestamptz, integer);
    DROP TRIGGER days_begin_elsewhere ON organisations;
    DROP TRIGGER days_are_due ON cards;
    DROP TRIGGER days_are_due ON events;
    DROP TRIGGER days_are_due_again ON events;
    DROP FUNCTION days_begin_elsewhere();
    DROP FUNCTION days_of_card_are_due();
    DROP FUNCTION days_are_due();
    DROP TABLE response_figures;
    DROP TABLE response_days;
    DROP FUNCTION records_marked(text[]);
    DROP FUNCTION find_people(text[]);
    DROP FUNCTION find_by_words(text[], uuid[], integer);
    DROP FUNCTION find_condition(text[]);
    DROP TRIGGER find_made ON hand_outs;
    DROP TRIGGER find_made ON directory_addresses;
    DROP TRIGGER find_made ON cards;
    DROP TRIGGER find_changed ON cards;
    DROP TRIGGER find_made ON records;
    DROP TRIGGER find_changed ON records;
    DROP FUNCTION find_record_again();
    DROP FUNCTION find_card_again();
    DROP FUNCTION find_address_again();
    DROP FUNCTION find_hand_out_again();
    DROP VIEW findable_rows;
    DROP FUNCTION searched(text[]);
    DROP TABLE findable;
    ALTER TABLE records DROP COLUMN marks;
    DROP SCHEMA heathland_extensions CASCADE;
    CREATE INDEX ON audit_trail (organisation_id, subject_id);
    DROP INDEX audit_trail_listed, audit_trail_of_subject, import_entries_by_record_id, import_entries_by_made_record, import_entries_by_made_card;
    CREATE INDEX ON records (organisation_id, written_name);
    DROP INDEX records_listed, records_counted, cards_counted;
    ALTER TABLE records DROP COLUMN title, DROP COLUMN firm, DROP COLUMN picture;
  `);
