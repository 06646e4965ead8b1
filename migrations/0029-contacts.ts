import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;

const asOwner = (head: string, returns: string, body: string, how: 'STABLE' | 'VOLATILE') => `
  CREATE FUNCTION ${head} RETURNS ${returns} LANGUAGE sql ${how} SECURITY DEFINER SET search_path = pg_catalog, public AS $$ ${body} $$;
  REVOKE ALL ON FUNCTION ${head} FROM PUBLIC;
  GRANT EXECUTE ON FUNCTION ${head} TO ${APP};`;

/** Writes a function again with texts in place of others. */
const rewriting = (signature: string, [from, to]: [string, string]) => `
  DO $do$ DECLARE body text := pg_get_functiondef('${signature}'::regprocedure); BEGIN
    EXECUTE replace(body, $t$${from}$t$, $t$${to}$t$);
  END $do$;`;
const back = ([from, to]: [string, string]): [string, string] => [to, from];

/** What goes with an organisation, and with a member: referrals go with their contact. */
const OF_ORGANISATION: [string, string] = [
  'DELETE FROM public.outbox WHERE organisation_id = wanted;',
  'DELETE FROM public.contacts WHERE organisation_id = wanted; DELETE FROM public.outbox WHERE organisation_id = wanted;',
];
const OF_MEMBER: [string, string] = [
  'DELETE FROM public.outbox WHERE user_id = wanted;',
  'DELETE FROM public.contacts WHERE user_id = wanted; DELETE FROM public.outbox WHERE user_id = wanted;',
];

/**
 * Contacts are people who are not staff: whom a member refers. They have no card, and nobody but that member sees them. A referral tells that
 * lines of one were passed on, and how; one by link keeps what the link shows until it ends.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    CREATE TABLE contacts (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL REFERENCES organisations,
      user_id uuid NOT NULL,
      written_name text NOT NULL,
      body jsonb NOT NULL,
      -- Which lines are passed on, as they were ticked last.
      lines jsonb NOT NULL,
      version integer NOT NULL DEFAULT 1,
      updated_at timestamptz NOT NULL,
      UNIQUE (organisation_id, id),
      FOREIGN KEY (organisation_id, user_id) REFERENCES users (organisation_id, id)
    );
    CREATE INDEX contacts_of_user ON contacts (organisation_id, user_id, written_name, id);
    CREATE TABLE referrals (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL,
      contact_id uuid NOT NULL,
      way text NOT NULL CHECK (way IN ('file', 'mail', 'link')),
      lines integer NOT NULL,
      at timestamptz NOT NULL,
      token_hash bytea UNIQUE,
      composition jsonb,
      ends_at timestamptz,
      CHECK ((way = 'link') = (ends_at IS NOT NULL)),
      FOREIGN KEY (organisation_id, contact_id) REFERENCES contacts (organisation_id, id) ON DELETE CASCADE
    );
    CREATE INDEX referrals_of_contact ON referrals (organisation_id, contact_id, at);
    CREATE INDEX referrals_ending ON referrals (ends_at) WHERE composition IS NOT NULL;
    ${['contacts', 'referrals']
      .map(
        (table) => `ALTER TABLE ${table} ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON ${table} USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    GRANT SELECT, INSERT, UPDATE, DELETE ON ${table} TO ${APP};`,
      )
      .join('\n')}
    ${asOwner(
      'find_referral(wanted bytea)',
      'TABLE (id uuid, organisation_id uuid, ends_at timestamptz)',
      `SELECT r.id, r.organisation_id, r.ends_at FROM public.referrals r JOIN public.organisations o ON o.id = r.organisation_id
       WHERE r.token_hash = wanted AND o.deleted_at IS NULL`,
      'STABLE',
    )}
    -- What an ended link showed goes at once, the link itself later: until then it says that it has ended.
    ${asOwner(
      'forget_ended_referrals(now_at timestamptz, before timestamptz)',
      'void',
      `UPDATE public.referrals SET composition = NULL WHERE composition IS NOT NULL AND ends_at < now_at;
       UPDATE public.referrals SET token_hash = NULL WHERE token_hash IS NOT NULL AND ends_at < before`,
      'VOLATILE',
    )}
    ${rewriting('erase_organisation(uuid)', OF_ORGANISATION)}
    ${rewriting('erase_member(uuid)', OF_MEMBER)}
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    ${rewriting('erase_member(uuid)', back(OF_MEMBER))}
    ${rewriting('erase_organisation(uuid)', back(OF_ORGANISATION))}
    DROP FUNCTION forget_ended_referrals(timestamptz, timestamptz);
    DROP FUNCTION find_referral(bytea);
    DROP TABLE referrals, contacts;
  `);
}
