import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;
const BEFORE = `'owner', 'administrator', 'brand keeper', 'holder', 'analyst'`;
const roles = (all: string) =>
  `ALTER TABLE users DROP CONSTRAINT users_role_check, ADD CONSTRAINT users_role_check CHECK (role IN (${all}));`;

/** A member may lead teams: their role reaches the people of these, and nobody else. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    ${roles(`${BEFORE}, 'team leader'`)}
    CREATE TABLE team_leaders (
      organisation_id uuid NOT NULL,
      team_id uuid NOT NULL,
      user_id uuid NOT NULL,
      PRIMARY KEY (team_id, user_id),
      FOREIGN KEY (organisation_id, team_id) REFERENCES teams (organisation_id, id) ON DELETE CASCADE,
      FOREIGN KEY (organisation_id, user_id) REFERENCES users (organisation_id, id) ON DELETE CASCADE
    );
    CREATE INDEX team_leaders_of ON team_leaders (organisation_id, team_id);
    CREATE INDEX team_leaders_user ON team_leaders (organisation_id, user_id);
    ALTER TABLE team_leaders ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON team_leaders USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    GRANT SELECT, INSERT, DELETE ON team_leaders TO ${APP};`);
}

/** Who led teams looks at figures from then on, until somebody gives them another role. */
export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    DROP TABLE team_leaders;
    UPDATE users SET role = 'analyst' WHERE role = 'team leader';
    ${roles(BEFORE)}`);
}
