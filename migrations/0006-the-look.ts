import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;

/** How a card looked before it could be dressed. */
const FIRST_LOOK = `{"layout":"trod","palette":{"sheet":"#FFFDF7","ink":"#1E2B28","band":"#17312C","onBand":"#EFE9D6","act":"#A8431F","onAct":"#FFFFFF"},"title":"literata","text":"atkinson","scale":"normal","corners":"eased","rules":"hair","ground":{"kind":"plain"},"photo":{"shape":"round","side":"start","share":"normal"},"night":true,"lines":{},"follows":[],"overrides":[],"hides":[]}`;

export async function up(knex: Knex): Promise<void> {
  await knex.raw(
    `
    ALTER TABLE cards ADD COLUMN look jsonb NOT NULL DEFAULT '${FIRST_LOOK}';

    -- The versions of an organisation's house style; the latest one holds. Never changed.
    CREATE TABLE house_styles (
      organisation_id uuid NOT NULL REFERENCES organisations,
      number integer NOT NULL,
      style jsonb NOT NULL,
      note text NOT NULL DEFAULT '',
      saved_by uuid REFERENCES users ON DELETE SET NULL,
      saved_at timestamptz NOT NULL,
      PRIMARY KEY (organisation_id, number)
    );

    -- Looks that a person has put by to use again.
    CREATE TABLE looks (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL REFERENCES organisations,
      user_id uuid NOT NULL REFERENCES users ON DELETE CASCADE,
      name text NOT NULL,
      look jsonb NOT NULL,
      created_at timestamptz NOT NULL,
      UNIQUE (user_id, name)
    );

    ${['house_styles', 'looks']
      .map(
        (table) => `ALTER TABLE ${table} ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON ${table} USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});`,
      )
      .join('\n')}
    GRANT SELECT, INSERT ON house_styles TO ${APP};
    GRANT SELECT, INSERT, UPDATE, DELETE ON looks TO ${APP};
  `,
  );
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    DROP TABLE looks, house_styles;
    ALTER TABLE cards DROP COLUMN look;
  `);
}
