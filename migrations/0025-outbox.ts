import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;

const asOwner = (head: string, returns: string, body: string, language = 'sql') => `
  CREATE FUNCTION ${head} RETURNS ${returns} LANGUAGE ${language} VOLATILE SECURITY DEFINER SET search_path = pg_catalog, public AS $$ ${body} $$;
  REVOKE ALL ON FUNCTION ${head} FROM PUBLIC;
  GRANT EXECUTE ON FUNCTION ${head} TO ${APP};`;

/** Writes a function again with texts in place of others; what it answers with may be another then. */
const rewriting = (signature: string, replaced: [from: string, to: string][]) => {
  const again = replaced.reduce((text, [from, to]) => `replace(${text}, $t$${from}$t$, $t$${to}$t$)`, 'body');
  return `
  DO $do$ DECLARE body text := pg_get_functiondef('${signature}'::regprocedure); BEGIN
    EXECUTE 'DROP FUNCTION ${signature}';
    EXECUTE ${again};
    EXECUTE 'REVOKE ALL ON FUNCTION ${signature} FROM PUBLIC';
    EXECUTE 'GRANT EXECUTE ON FUNCTION ${signature} TO ${APP}';
  END $do$;`;
};

const TYPES: [string, string] = [
  'totp_since timestamp with time zone',
  'totp_since timestamp with time zone, email_confirmed_at timestamp with time zone',
];
const COLUMNS: [string, string] = ['u.totp_since', 'u.totp_since, u.email_confirmed_at'];
const PRESENT: [string, string] = ['u.left_at IS NULL', 'u.left_at IS NULL AND NOT u.provisional'];
const back = ([from, to]: [string, string]): [string, string] => [to, from];

const BY_EMAIL = 'account_by_email(text)';
const BY_SESSION = 'account_by_session(bytea, timestamptz, interval)';
const ACTOR = 'actor_by_session(bytea, timestamptz, interval)';

/** What goes with an organisation, and with a member. */
const OF_ORGANISATION: [string, string] = [
  'DELETE FROM public.sessions WHERE organisation_id = wanted;',
  'DELETE FROM public.outbox WHERE organisation_id = wanted; DELETE FROM public.account_links WHERE organisation_id = wanted; DELETE FROM public.sessions WHERE organisation_id = wanted;',
];
const OF_MEMBER: [string, string] = [
  'DELETE FROM public.recovery_codes WHERE user_id = wanted;',
  'DELETE FROM public.outbox WHERE user_id = wanted; DELETE FROM public.account_links WHERE user_id = wanted; DELETE FROM public.recovery_codes WHERE user_id = wanted;',
];

/**
 * Mail waits in the outbox, written by the transaction of its act; whoever sends takes it for a while, and its text goes once it is sent.
 * Links of accounts (to confirm an address, to choose a new password) are known by a hash. An address may be signed up with once more
 * where somebody has it: that account is provisional, so that signing up tells nobody who has one.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE users ADD COLUMN email_confirmed_at timestamptz, ADD COLUMN provisional boolean NOT NULL DEFAULT false;
    GRANT UPDATE (email, email_confirmed_at, provisional) ON users TO ${APP};
    DROP INDEX users_email_present;
    CREATE UNIQUE INDEX users_email_present ON users (email) WHERE left_at IS NULL AND NOT provisional;
    CREATE INDEX users_email_provisional ON users (email) WHERE left_at IS NULL AND provisional;

    CREATE TABLE outbox (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL REFERENCES organisations,
      user_id uuid NOT NULL,
      kind text NOT NULL CHECK (length(kind) BETWEEN 1 AND 40),
      sender text NOT NULL,
      recipient text,
      message bytea,
      created_at timestamptz NOT NULL,
      due_at timestamptz NOT NULL,
      -- After that it is of no use to anybody.
      until timestamptz NOT NULL,
      tries integer NOT NULL DEFAULT 0,
      leased_until timestamptz,
      sent_at timestamptz,
      failed_at timestamptz,
      problem text,
      CHECK ((message IS NULL) = (sent_at IS NOT NULL OR failed_at IS NOT NULL)),
      CHECK ((message IS NULL) = (recipient IS NULL)),
      FOREIGN KEY (organisation_id, user_id) REFERENCES users (organisation_id, id)
    );
    CREATE INDEX outbox_of_user ON outbox (organisation_id, user_id, created_at);
    CREATE INDEX outbox_due ON outbox (due_at) WHERE message IS NOT NULL;
    CREATE TABLE account_links (
      organisation_id uuid NOT NULL,
      user_id uuid NOT NULL,
      purpose text NOT NULL CHECK (purpose IN ('confirm', 'password', 'move-from', 'move-to')),
      token_hash bytea NOT NULL UNIQUE,
      -- The address that it is about.
      email text NOT NULL,
      created_at timestamptz NOT NULL,
      expires_at timestamptz NOT NULL,
      agreed_at timestamptz,
      PRIMARY KEY (organisation_id, user_id, purpose),
      FOREIGN KEY (organisation_id, user_id) REFERENCES users (organisation_id, id) ON DELETE CASCADE
    );
    ${['outbox', 'account_links']
      .map(
        (table) => `ALTER TABLE ${table} ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON ${table} USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});`,
      )
      .join('\n')}
    -- What is in a message, and for whom, is read by whoever sends it alone.
    GRANT INSERT, SELECT (id, organisation_id, user_id, kind, created_at, due_at, tries, sent_at, failed_at, problem) ON outbox TO ${APP};
    GRANT SELECT, INSERT, UPDATE, DELETE ON account_links TO ${APP};

    ${asOwner(
      'take_mail(at timestamptz, lease interval)',
      'TABLE (id uuid, organisation_id uuid, kind text, sender text, recipient text, message bytea, tries integer, until timestamptz)',
      `
      UPDATE public.outbox o SET tries = o.tries + 1, leased_until = at + lease WHERE o.id = (
        SELECT w.id FROM public.outbox w WHERE w.message IS NOT NULL AND w.due_at <= at AND (w.leased_until IS NULL OR w.leased_until <= at)
        ORDER BY w.due_at LIMIT 1 FOR UPDATE SKIP LOCKED)
      RETURNING o.id, o.organisation_id, o.kind, o.sender, o.recipient, o.message, o.tries, o.until`,
    )}
    -- Only whoever has it still tells what became of it: the number of the try is theirs.
    ${asOwner(
      'mail_is_sent(wanted uuid, try integer, at timestamptz)',
      'void',
      `UPDATE public.outbox SET sent_at = at, message = NULL, recipient = NULL, leased_until = NULL WHERE id = wanted AND tries = try AND message IS NOT NULL`,
    )}
    ${asOwner(
      'mail_is_late(wanted uuid, try integer, again timestamptz, why text)',
      'void',
      `UPDATE public.outbox SET due_at = again, problem = why, leased_until = NULL WHERE id = wanted AND tries = try AND message IS NOT NULL`,
    )}
    ${asOwner(
      'mail_is_given_up(wanted uuid, try integer, at timestamptz, why text)',
      'void',
      `UPDATE public.outbox SET failed_at = at, problem = why, message = NULL, recipient = NULL, leased_until = NULL WHERE id = wanted AND tries = try AND message IS NOT NULL`,
    )}
    ${asOwner(
      'forget_mail(before timestamptz, at timestamptz)',
      'void',
      `DELETE FROM public.outbox WHERE message IS NULL AND created_at < before; DELETE FROM public.account_links WHERE expires_at < at`,
    )}
    ${asOwner(
      'account_link(wanted bytea, at timestamptz)',
      'TABLE (organisation_id uuid, user_id uuid, purpose text, email text, agreed_at timestamptz)',
      `SELECT l.organisation_id, l.user_id, l.purpose, l.email, l.agreed_at FROM public.account_links l JOIN public.users u ON u.id = l.user_id
       WHERE l.token_hash = wanted AND l.expires_at > at AND u.left_at IS NULL`,
    )}
    ${rewriting(BY_EMAIL, [TYPES, COLUMNS, PRESENT])}
    -- The latest account that was signed up for with an address that is another one's.
    ${asOwner(
      'provisional_account(wanted text)',
      'TABLE (id uuid, organisation_id uuid)',
      `SELECT u.id, u.organisation_id FROM public.users u JOIN public.organisations o ON o.id = u.organisation_id
       WHERE u.email = wanted AND u.left_at IS NULL AND u.provisional ORDER BY u.created_at DESC LIMIT 1`,
    )}
    ${rewriting(ACTOR, [TYPES])}
    ${rewriting(BY_SESSION, [TYPES, COLUMNS])}
    ${rewriting('erase_organisation(uuid)', [OF_ORGANISATION])}
    ${rewriting('erase_member(uuid)', [OF_MEMBER])}
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    ${rewriting('erase_member(uuid)', [back(OF_MEMBER)])}
    ${rewriting('erase_organisation(uuid)', [back(OF_ORGANISATION)])}
    ${rewriting(BY_SESSION, [back(TYPES), back(COLUMNS)])}
    ${rewriting(ACTOR, [back(TYPES)])}
    ${rewriting(BY_EMAIL, [back(TYPES), back(COLUMNS), back(PRESENT)])}
    DROP FUNCTION provisional_account(text);
    DROP FUNCTION account_link(bytea, timestamptz);
    DROP FUNCTION forget_mail(timestamptz, timestamptz);
    DROP FUNCTION mail_is_given_up(uuid, integer, timestamptz, text);
    DROP FUNCTION mail_is_late(uuid, integer, timestamptz, text);
    DROP FUNCTION mail_is_sent(uuid, integer, timestamptz);
    DROP FUNCTION take_mail(timestamptz, interval);
    DROP TABLE account_links;
    DROP TABLE outbox;
    -- Of two with one address the provisional one goes.
    UPDATE users SET left_at = now() WHERE provisional AND left_at IS NULL;
    DROP INDEX users_email_provisional;
    DROP INDEX users_email_present;
    CREATE UNIQUE INDEX users_email_present ON users (email) WHERE left_at IS NULL;
    REVOKE UPDATE (email, email_confirmed_at, provisional) ON users FROM ${APP};
    ALTER TABLE users DROP COLUMN provisional, DROP COLUMN email_confirmed_at;
  `);
}
