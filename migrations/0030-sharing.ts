import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;

/** Writes a function again with texts in place of others. */
const rewriting = (signature: string, replaced: [from: string, to: string][]) => `
  DO $do$ DECLARE body text := pg_get_functiondef('${signature}'::regprocedure); BEGIN
    EXECUTE ${replaced.reduce((text, [from, to]) => `replace(${text}, $t$${from}$t$, $t$${to}$t$)`, 'body')};
  END $do$;`;
const back = ([from, to]: [string, string]): [string, string] => [to, from];

/** Events carry the card's revision: the last of a list, which an older process of a rolling start does not send. */
const SORTED: [string, string][] = [
  ['kind, line, visitor, occurred_at)', 'kind, line, visitor, occurred_at, revision)'],
  [
    'to_timestamp((e->>4)::double precision / 1000.0)',
    'to_timestamp((e->>4)::double precision / 1000.0), (e->>5)::int',
  ],
  ['to_timestamp(e.at / 1000.0)', 'to_timestamp(e.at / 1000.0), NULL::int'],
];
const OF_ORGANISATION: [string, string] = [
  'DELETE FROM public.contacts WHERE organisation_id = wanted;',
  'DELETE FROM public.message_templates WHERE organisation_id = wanted; DELETE FROM public.contacts WHERE organisation_id = wanted;',
];
const OF_MEMBER: [string, string] = [
  'DELETE FROM public.contacts WHERE user_id = wanted;',
  'DELETE FROM public.message_templates WHERE user_id = wanted; DELETE FROM public.contacts WHERE user_id = wanted;',
];
const NOBODYS = `'00000000-0000-0000-0000-000000000000'`;

/**
 * A card is shared from a device, and stands in profiles elsewhere: what is not a piece of its own is one hand-out a card, channel, placement and
 * occasion. Members keep words for messages. Events tell which revision somebody saw.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE hand_outs DROP CONSTRAINT hand_outs_channel_check;
    ALTER TABLE hand_outs ADD CONSTRAINT hand_outs_channel_check
      CHECK (channel IN ('code', 'tag', 'signature', 'message', 'share', 'profile'));
    DROP INDEX message_of_card;
    CREATE UNIQUE INDEX reused_hand_out ON hand_outs (organisation_id, card_id, channel,
      coalesce(placement_id, ${NOBODYS}), coalesce(occasion_id, ${NOBODYS})) WHERE channel IN ('message', 'share', 'profile');
    -- What is added to links of the page by whoever follows their own web statistics, as it stands in a query (RFC 3986 3.4).
    ALTER TABLE hand_outs ADD COLUMN parameters text NOT NULL DEFAULT '' CHECK (length(parameters) <= 200);
    GRANT UPDATE (parameters) ON hand_outs TO ${APP};
    CREATE TABLE message_templates (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL REFERENCES organisations,
      user_id uuid NOT NULL,
      name text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
      body text NOT NULL CHECK (length(body) BETWEEN 1 AND 1000),
      UNIQUE (organisation_id, user_id, name),
      FOREIGN KEY (organisation_id, user_id) REFERENCES users (organisation_id, id)
    );
    ALTER TABLE message_templates ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON message_templates USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    GRANT SELECT, INSERT, UPDATE, DELETE ON message_templates TO ${APP};
    ALTER TABLE events ADD COLUMN revision integer;
    ${rewriting('sort_event_inbox(integer)', SORTED)}
    ${rewriting('erase_organisation(uuid)', [OF_ORGANISATION])}
    ${rewriting('erase_member(uuid)', [OF_MEMBER])}
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    SELECT sort_event_inbox(1000000);
    ${rewriting('erase_member(uuid)', [back(OF_MEMBER)])}
    ${rewriting('erase_organisation(uuid)', [back(OF_ORGANISATION)])}
    ${rewriting('sort_event_inbox(integer)', SORTED.map(back))}
    ALTER TABLE events DROP COLUMN revision;
    DROP TABLE message_templates;
    ALTER TABLE hand_outs DROP COLUMN parameters;
    DROP INDEX reused_hand_out;
    DELETE FROM hand_outs WHERE channel IN ('share', 'profile');
    -- Of several placements of messages one is left.
    DELETE FROM hand_outs h USING hand_outs o WHERE h.channel = 'message' AND o.channel = 'message' AND o.card_id = h.card_id
      AND o.occasion_id IS NOT DISTINCT FROM h.occasion_id AND o.id < h.id;
    CREATE UNIQUE INDEX message_of_card ON hand_outs (organisation_id, card_id, coalesce(occasion_id, ${NOBODYS}))
      WHERE channel = 'message';
    ALTER TABLE hand_outs DROP CONSTRAINT hand_outs_channel_check;
    ALTER TABLE hand_outs ADD CONSTRAINT hand_outs_channel_check CHECK (channel IN ('code', 'tag', 'signature', 'message'));
  `);
}
