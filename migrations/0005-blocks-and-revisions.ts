import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;

export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    -- The page's blocks, what opens first, and the card's words in further languages.
    ALTER TABLE cards
      ADD COLUMN blocks jsonb NOT NULL DEFAULT '[]',
      ADD COLUMN opens jsonb NOT NULL DEFAULT '{"first": "page"}',
      ADD COLUMN words jsonb NOT NULL DEFAULT '{}';

    -- What the publisher noted, and the draft that was published, so that it can be restored. Null before this migration.
    ALTER TABLE revisions ADD COLUMN note text NOT NULL DEFAULT '', ADD COLUMN draft jsonb;

    -- Who gave a picture may see it before it stands anywhere.
    ALTER TABLE pictures ADD COLUMN added_by uuid REFERENCES users ON DELETE SET NULL;

    -- Films and captions by their hash in the file store.
    CREATE TABLE films (
      organisation_id uuid NOT NULL REFERENCES organisations,
      hash text NOT NULL,
      type text NOT NULL CHECK (type IN ('video/mp4', 'video/webm', 'text/vtt')),
      bytes integer NOT NULL,
      width integer,
      height integer,
      seconds double precision,
      added_by uuid REFERENCES users ON DELETE SET NULL,
      created_at timestamptz NOT NULL DEFAULT now(),
      PRIMARY KEY (organisation_id, hash)
    );

    -- What happens to a card by itself: it is published at one time, and it ends at another.
    CREATE TABLE plans (
      card_id uuid PRIMARY KEY REFERENCES cards ON DELETE CASCADE,
      organisation_id uuid NOT NULL REFERENCES organisations,
      publish_at timestamptz,
      address text NOT NULL DEFAULT '',
      note text NOT NULL DEFAULT '',
      ends_at timestamptz,
      ends_with text CHECK (ends_with IN ('resting', 'retired')),
      planned_by uuid NOT NULL REFERENCES users,
      -- Why it could not be published at its time.
      problem jsonb,
      CHECK ((ends_at IS NULL) = (ends_with IS NULL)),
      CHECK (publish_at IS NULL OR ends_at IS NULL OR publish_at < ends_at)
    );
    -- Plans whose time has come, for all tenants: known before the tenant is. Runs as the owner and tells no more than where to look.
    CREATE FUNCTION due_plans(at timestamptz) RETURNS TABLE (organisation_id uuid, card_id uuid)
      LANGUAGE sql SECURITY DEFINER SET search_path = pg_catalog, public AS $$
      SELECT p.organisation_id, p.card_id FROM public.plans p
      WHERE (p.publish_at <= at AND p.problem IS NULL) OR p.ends_at <= at ORDER BY least(p.publish_at, p.ends_at) LIMIT 100
    $$;
    REVOKE ALL ON FUNCTION due_plans(timestamptz) FROM PUBLIC;
    GRANT EXECUTE ON FUNCTION due_plans(timestamptz) TO ${APP};

    ${['films', 'plans']
      .map(
        (table) => `ALTER TABLE ${table} ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON ${table} USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});`,
      )
      .join('\n')}
    GRANT SELECT, INSERT ON films TO ${APP};
    GRANT SELECT, INSERT, UPDATE, DELETE ON plans TO ${APP};

    -- The beginning that an organisation's addresses have, and nobody else's. Never given to another.
    CREATE TABLE directory_prefixes (prefix text PRIMARY KEY, organisation_id uuid NOT NULL, is_current boolean NOT NULL);
    CREATE UNIQUE INDEX ON directory_prefixes (organisation_id) WHERE is_current;
    GRANT SELECT, INSERT, UPDATE (is_current) ON directory_prefixes TO ${APP};
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    DROP FUNCTION due_plans(timestamptz);
    DROP TABLE directory_prefixes, plans, films;
    ALTER TABLE pictures DROP COLUMN added_by;
    ALTER TABLE revisions DROP COLUMN note, DROP COLUMN draft;
    ALTER TABLE cards DROP COLUMN blocks, DROP COLUMN opens, DROP COLUMN words;
  `);
}
