import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;

export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    -- A contact file that came in: what was found in it stays for review until somebody takes it in, and after that for
    -- undoing. The file itself is forgotten once it was taken in.
    CREATE TABLE imports (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL REFERENCES organisations,
      user_id uuid NOT NULL REFERENCES users,
      file_name text NOT NULL,
      file text,
      state text NOT NULL DEFAULT 'reading'
        CHECK (state IN ('reading', 'ready', 'taking', 'taken', 'undoing', 'undone', 'failed')),
      troubles jsonb NOT NULL DEFAULT '[]',
      job_id uuid,
      created_at timestamptz NOT NULL,
      updated_at timestamptz NOT NULL
    );
    CREATE INDEX ON imports (organisation_id, created_at DESC);

    -- One contact of the file. "made_*" and "before" are what undoing needs.
    CREATE TABLE import_entries (
      organisation_id uuid NOT NULL REFERENCES organisations,
      import_id uuid NOT NULL REFERENCES imports ON DELETE CASCADE,
      at integer NOT NULL,
      line integer NOT NULL,
      name text NOT NULL,
      verdict text NOT NULL CHECK (verdict IN ('new', 'differs', 'same', 'twice')),
      record_id uuid REFERENCES records ON DELETE SET NULL,
      body jsonb NOT NULL,
      has_photo boolean NOT NULL,
      troubles jsonb NOT NULL DEFAULT '[]',
      too_large jsonb NOT NULL DEFAULT '[]',
      take boolean NOT NULL,
      chosen jsonb NOT NULL DEFAULT '[]',
      made_record uuid,
      made_card uuid,
      made_version integer,
      before jsonb,
      undone boolean NOT NULL DEFAULT false,
      PRIMARY KEY (import_id, at)
    );
    CREATE INDEX ON import_entries (import_id, verdict, at);

    ${['imports', 'import_entries']
      .map(
        (table) => `ALTER TABLE ${table} ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON ${table} USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});`,
      )
      .join('\n')}
    GRANT SELECT, INSERT, UPDATE ON imports TO ${APP};
    GRANT SELECT, INSERT, UPDATE, DELETE ON import_entries TO ${APP};
    -- Undoing an import removes the records that it made, with their cards that were never published.
    GRANT DELETE ON records, cards TO ${APP};

    -- Jobs of the earlier task, which took a file in without review.
    UPDATE jobs SET state = 'cancelled' WHERE task = 'import-contacts' AND state IN ('waiting', 'running');
    UPDATE jobs SET task = 'take-contacts' WHERE task = 'import-contacts';
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    REVOKE DELETE ON records, cards FROM ${APP};
    DROP TABLE import_entries;
    DROP TABLE imports;
  `);
}
