import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;
const RIGHTS = 'SECURITY DEFINER SET search_path = pg_catalog, public';

/**
 * People are invited to sign in: a link that works once, what became of it, and when they were reminded. Whoever has confirmed an address may
 * sign in by a code that is sent there, of which only a keyed hash is kept.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE account_links DROP CONSTRAINT account_links_purpose_check,
      ADD CONSTRAINT account_links_purpose_check CHECK (purpose IN ('confirm', 'password', 'move-from', 'move-to', 'welcome'));
    CREATE TABLE invitations (
      organisation_id uuid NOT NULL,
      user_id uuid PRIMARY KEY,
      record_id uuid NOT NULL,
      language text NOT NULL,
      invited_by uuid,
      sent_at timestamptz NOT NULL,
      sent integer NOT NULL DEFAULT 1,
      accepted_at timestamptz,
      withdrawn_at timestamptz,
      reminded_at timestamptz,
      FOREIGN KEY (organisation_id, user_id) REFERENCES users (organisation_id, id) ON DELETE CASCADE,
      FOREIGN KEY (organisation_id, invited_by) REFERENCES users (organisation_id, id) ON DELETE SET NULL (invited_by),
      FOREIGN KEY (organisation_id, record_id) REFERENCES records (organisation_id, id) ON DELETE CASCADE
    );
    CREATE INDEX invitations_of ON invitations (organisation_id, user_id);
    CREATE INDEX invitations_by ON invitations (organisation_id, invited_by);
    CREATE INDEX invitations_record ON invitations (organisation_id, record_id);
    CREATE INDEX invitations_open ON invitations (sent_at) WHERE accepted_at IS NULL AND withdrawn_at IS NULL AND reminded_at IS NULL;
    CREATE TABLE mailed_codes (
      organisation_id uuid NOT NULL,
      user_id uuid PRIMARY KEY,
      code_hash bytea NOT NULL,
      expires_at timestamptz NOT NULL,
      tries integer NOT NULL DEFAULT 0,
      FOREIGN KEY (organisation_id, user_id) REFERENCES users (organisation_id, id) ON DELETE CASCADE
    );
    CREATE INDEX mailed_codes_of ON mailed_codes (organisation_id, user_id);
    ${['invitations', 'mailed_codes']
      .map(
        (table) => `
    ALTER TABLE ${table} ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON ${table} USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    GRANT SELECT, INSERT, UPDATE, DELETE ON ${table} TO ${APP};`,
      )
      .join('')}
    -- Who was invited before an instant, has not come and was not reminded.
    CREATE FUNCTION due_reminders(before timestamptz) RETURNS TABLE (organisation_id uuid, user_id uuid) LANGUAGE sql STABLE ${RIGHTS} AS $$
      SELECT i.organisation_id, i.user_id FROM public.invitations i JOIN public.users u ON u.id = i.user_id
      JOIN public.organisations o ON o.id = i.organisation_id
      WHERE i.accepted_at IS NULL AND i.withdrawn_at IS NULL AND i.reminded_at IS NULL AND i.sent_at <= before
        AND u.left_at IS NULL AND o.deleted_at IS NULL ORDER BY i.sent_at LIMIT 200
    $$;
    REVOKE ALL ON FUNCTION due_reminders(timestamptz) FROM PUBLIC;
    GRANT EXECUTE ON FUNCTION due_reminders(timestamptz) TO ${APP};
    CREATE FUNCTION forget_codes(at timestamptz) RETURNS void LANGUAGE sql VOLATILE ${RIGHTS} AS $$
      DELETE FROM public.mailed_codes WHERE expires_at <= at
    $$;
    REVOKE ALL ON FUNCTION forget_codes(timestamptz) FROM PUBLIC;
    GRANT EXECUTE ON FUNCTION forget_codes(timestamptz) TO ${APP};
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    DROP FUNCTION due_reminders(timestamptz);
    DROP FUNCTION forget_codes(timestamptz);
    DROP TABLE invitations, mailed_codes;
    DELETE FROM account_links WHERE purpose = 'welcome';
    ALTER TABLE account_links DROP CONSTRAINT account_links_purpose_check,
      ADD CONSTRAINT account_links_purpose_check CHECK (purpose IN ('confirm', 'password', 'move-from', 'move-to'));
  `);
}
