import type { Knex } from 'knex';

const APP = 'heathland_app';

const asOwner = (head: string, returns: string, body: string) => `
  CREATE FUNCTION ${head} RETURNS ${returns} LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = pg_catalog, public AS $$ ${body} $$;
  REVOKE ALL ON FUNCTION ${head} FROM PUBLIC;
  GRANT EXECUTE ON FUNCTION ${head} TO ${APP};`;

/** Events one by one, as they came in before: each names its card. */
const SINGLE = `
  SELECT e.organisation, e.card, e."handOut", e.kind, e.line, decode(e.visitor, 'hex'), to_timestamp(e.at / 1000.0)
  FROM given, json_to_recordset(given.events)
    AS e(organisation uuid, card uuid, "handOut" uuid, kind text, line text, visitor text, at double precision)`;
/** Events by their card, each an array: hand-out, kind, line, visitor, milliseconds. */
const BY_CARD = `
  SELECT g.organisation, g.card, (e->>0)::uuid, e->>1, e->>2, decode(e->>3, 'hex'), to_timestamp((e->>4)::double precision / 1000.0)
  FROM given, json_to_recordset(given.events) AS g(organisation uuid, card uuid, events json), json_array_elements(g.events) AS e
  WHERE g.events IS NOT NULL`;

const sorting = (select: string) => `
  DECLARE one record;
  BEGIN
    PERFORM pg_advisory_xact_lock(hashtext('heathland event inbox'));
    passed_over := 0;
    BEGIN
      WITH given AS (
        DELETE FROM public.event_inbox WHERE id IN (SELECT id FROM public.event_inbox ORDER BY received_at LIMIT most) RETURNING events
      ), added AS (
        INSERT INTO public.events (organisation_id, card_id, hand_out_id, kind, line, visitor, occurred_at) ${select}
      )
      SELECT count(*) INTO moved FROM given;
      RETURN NEXT;
      RETURN;
    EXCEPTION WHEN OTHERS THEN
      -- One of them is at fault: one after the other.
      moved := 0;
    END;
    FOR one IN SELECT i.id, i.events, i.received_at FROM public.event_inbox i ORDER BY i.received_at LIMIT most LOOP
      BEGIN
        WITH given AS (SELECT one.events AS events)
        INSERT INTO public.events (organisation_id, card_id, hand_out_id, kind, line, visitor, occurred_at) ${select};
      EXCEPTION WHEN OTHERS THEN
        INSERT INTO public.event_rejects (id, events, received_at, code) VALUES (one.id, one.events, one.received_at, SQLSTATE);
        passed_over := passed_over + 1;
      END;
      DELETE FROM public.event_inbox WHERE id = one.id;
      moved := moved + 1;
    END LOOP;
    RETURN NEXT;
  END`;

/**
 * The inbox takes events by their card and looks at no more than whose cards they are: a recipient waits for that. Each event is held
 * to its shape when it is sorted, and one that is none is put aside.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE events ADD CONSTRAINT events_well_formed CHECK (
      kind IN ('view', 'save', 'tap', 'bot') AND length(line) <= 60 AND octet_length(visitor) = 16
    ) NOT VALID;
    DROP FUNCTION record_events(uuid, json);
    ${asOwner(
      'record_events(commit_id uuid, given json)',
      'TABLE (card_id uuid, version integer)',
      `
      #variable_conflict use_column
      DECLARE found integer;
      BEGIN
        RETURN QUERY SELECT d.card_id, d.version FROM json_to_recordset(given) AS g(organisation uuid, card uuid)
          JOIN public.directory_cards d ON d.card_id = g.card AND d.organisation_id = g.organisation;
        GET DIAGNOSTICS found = ROW_COUNT;
        IF found = 0 OR found > 1000 OR found <> json_array_length(given) THEN
          RAISE EXCEPTION 'an event is of no card that there is' USING ERRCODE = 'check_violation';
        END IF;
        INSERT INTO public.event_inbox (id, events) VALUES (commit_id, given) ON CONFLICT DO NOTHING;
      END`,
    )}
    DROP FUNCTION sort_event_inbox(integer);
    ${asOwner(
      'sort_event_inbox(most integer)',
      'TABLE (moved integer, passed_over integer)',
      // What an older process of a rolling start still sends names a card for each event and has no list.
      sorting(
        `${BY_CARD} UNION ALL ${SINGLE.replace('"handOut" uuid,', '"handOut" uuid, events json,')} WHERE e.events IS NULL`,
      ),
    )}
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    SELECT sort_event_inbox(1000000);
    DROP FUNCTION sort_event_inbox(integer);
    ${asOwner('sort_event_inbox(most integer)', 'TABLE (moved integer, passed_over integer)', sorting(SINGLE))}
    DROP FUNCTION record_events(uuid, json);
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
    )}
    ALTER TABLE events DROP CONSTRAINT events_well_formed;
  `);
}
