import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;

/** Writes a function again with texts in place of others. */
const rewriting = (signature: string, replaced: [from: string, to: string][]) => `
  DO $do$ DECLARE body text := pg_get_functiondef('${signature}'::regprocedure); BEGIN
    EXECUTE ${replaced.reduce((text, [from, to]) => `replace(${text}, $t$${from}$t$, $t$${to}$t$)`, 'body')};
  END $do$;`;
const back = ([from, to]: [string, string]): [string, string] => [to, from];

/** A code that points at no card yet is found all the same, and says so. */
const FOUND: [string, string][] = [
  [
    'SELECT c.card_id, c.organisation_id, c.version, h.hand_out_id',
    'SELECT c.card_id, h.organisation_id, c.version, h.hand_out_id',
  ],
  [
    'JOIN public.directory_cards c ON c.card_id = h.card_id',
    'LEFT JOIN public.directory_cards c ON c.card_id = h.card_id',
  ],
];
const OF_ORGANISATION: [string, string] = [
  'DELETE FROM public.message_templates WHERE organisation_id = wanted;',
  'DELETE FROM public.spare_codes WHERE organisation_id = wanted; DELETE FROM public.message_templates WHERE organisation_id = wanted;',
];

/** Codes are made in advance, printed, and point at a card from when somebody gets them. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE directory_codes ALTER COLUMN card_id DROP NOT NULL, ALTER COLUMN hand_out_id DROP NOT NULL,
      ADD CONSTRAINT directory_codes_whole CHECK ((card_id IS NULL) = (hand_out_id IS NULL)),
      ADD CONSTRAINT directory_codes_own UNIQUE (organisation_id, code);
    GRANT UPDATE (card_id, hand_out_id) ON directory_codes TO ${APP};
    CREATE TABLE spare_codes (
      code char(8) PRIMARY KEY,
      organisation_id uuid NOT NULL REFERENCES organisations,
      -- What they were made for, as "blank cards of May".
      placement text NOT NULL CHECK (length(placement) BETWEEN 1 AND 80),
      made_at timestamptz NOT NULL,
      FOREIGN KEY (organisation_id, code) REFERENCES directory_codes (organisation_id, code)
    );
    CREATE INDEX spare_codes_by_code ON spare_codes (organisation_id, code);
    CREATE INDEX spare_codes_of ON spare_codes (organisation_id, made_at, code);
    ALTER TABLE spare_codes ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON spare_codes USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    GRANT SELECT, INSERT, DELETE ON spare_codes TO ${APP};
    ${rewriting('find_code(text)', FOUND)}
    ${rewriting('erase_organisation(uuid)', [OF_ORGANISATION])}
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    ${rewriting('erase_organisation(uuid)', [back(OF_ORGANISATION)])}
    ${rewriting('find_code(text)', FOUND.map(back))}
    DROP TABLE spare_codes;
    DELETE FROM directory_codes WHERE card_id IS NULL;
    REVOKE UPDATE (card_id, hand_out_id) ON directory_codes FROM ${APP};
    GRANT UPDATE (card_id) ON directory_codes TO ${APP};
    ALTER TABLE directory_codes DROP CONSTRAINT directory_codes_own, DROP CONSTRAINT directory_codes_whole,
      ALTER COLUMN card_id SET NOT NULL, ALTER COLUMN hand_out_id SET NOT NULL;
  `);
}
