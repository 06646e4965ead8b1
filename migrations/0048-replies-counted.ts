import type { Knex } from 'knex';
import { rewriting } from './rewriting';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;

const wellFormed = (kinds: string[]) => `
  ALTER TABLE events DROP CONSTRAINT events_well_formed;
  ALTER TABLE events ADD CONSTRAINT events_well_formed CHECK (
    kind IN (${kinds.map((kind) => `'${kind}'`).join(', ')}) AND length(line) <= 60 AND octet_length(visitor) = 16
  ) NOT VALID;`;

const byHandOut = (figures: string) => `
  DROP INDEX response_figures_by_hand_out;
  CREATE INDEX response_figures_by_hand_out ON response_figures (organisation_id, day) INCLUDE (hand_out_id, ${figures}) WHERE hand_out_id IS NOT NULL;`;

/** An event of a reply as the inbox takes it (by its card: hand-out, kind, line, visitor, milliseconds, revision): it says of nobody who sent it. */
const counting = (which: string) => `
  INSERT INTO public.event_inbox (id, events)
    SELECT r.id, json_build_array(json_build_object('organisation', r.organisation_id, 'card', r.card_id, 'events',
      json_build_array(json_build_array(r.hand_out_id, 'reply', NULL, NULL, extract(epoch FROM r.at) * 1000, NULL))))
    FROM public.replies r WHERE ${which} ON CONFLICT DO NOTHING`;

const TAKEN: [string, string] = [
  `RETURN QUERY SELECT (given->>'reply')::uuid, hit.id, false;`,
  `IF given->'wrong' = '[]' THEN PERFORM public.count_reply((given->>'reply')::uuid); END IF;
      RETURN QUERY SELECT (given->>'reply')::uuid, hit.id, false;`,
];
const back = ([from, to]: [string, string]): [string, string] => [to, from];

/** Replies are among the figures: counted with the transaction that takes them down, or with the nod to one that waited; erasing one takes nothing away. */
export const up = (knex: Knex): Promise<void> =>
  knex.raw(`
  ${wellFormed(['view', 'save', 'tap', 'reply', 'bot'])}
  ALTER TABLE response_days ADD COLUMN replies integer NOT NULL DEFAULT 0;
  ALTER TABLE response_figures ADD COLUMN replies integer NOT NULL DEFAULT 0;
  ${byHandOut('views, visits, visitors, saves, taps, replies')}
  CREATE FUNCTION count_reply(wanted uuid) RETURNS void LANGUAGE plpgsql VOLATILE SECURITY DEFINER SET search_path = pg_catalog, public AS $$
    BEGIN ${counting(`r.id = wanted AND r.organisation_id = ${TENANT}`)}; END $$;
  REVOKE ALL ON FUNCTION count_reply(uuid) FROM PUBLIC;
  GRANT EXECUTE ON FUNCTION count_reply(uuid) TO ${APP};
  ${rewriting('take_reply(jsonb)', TAKEN)}
  ${counting('r.looks_wrong IS NULL OR r.nodded_at IS NOT NULL')};`);

export const down = (knex: Knex): Promise<void> =>
  knex.raw(`
  SELECT sort_event_inbox(1000000);
  ${rewriting('take_reply(jsonb)', back(TAKEN))}
  DROP FUNCTION count_reply(uuid);
  DELETE FROM events WHERE kind = 'reply';
  ${byHandOut('views, visits, visitors, saves, taps')}
  ALTER TABLE response_figures DROP COLUMN replies;
  ALTER TABLE response_days DROP COLUMN replies;
  ${wellFormed(['view', 'save', 'tap', 'bot'])}`);
