import type { Knex } from 'knex';
import { rewriting } from './rewriting';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;
const TEAMS = 'DELETE FROM public.teams WHERE organisation_id = wanted;';
const REWRITTEN: [signature: string, change: [from: string, to: string]][] = [
  [
    'erase_organisation(uuid)',
    [
      TEAMS,
      `${TEAMS} DELETE FROM public.office_versions WHERE organisation_id = wanted; DELETE FROM public.offices WHERE organisation_id = wanted;`,
    ],
  ],
];

/**
 * Offices, to which people belong by reference: their lines are put over cards when those are served, as the house style's are. Every
 * version is kept, so that what a copy out there was made of can be told.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    CREATE TABLE offices (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL REFERENCES organisations,
      name text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
      -- The version that holds.
      number integer NOT NULL CHECK (number > 0),
      UNIQUE (organisation_id, id)
    );
    CREATE UNIQUE INDEX offices_name ON offices (organisation_id, lower(name));
    CREATE TABLE office_versions (
      organisation_id uuid NOT NULL,
      office_id uuid NOT NULL,
      number integer NOT NULL CHECK (number > 0),
      lines jsonb NOT NULL,
      saved_by uuid,
      saved_at timestamptz NOT NULL,
      PRIMARY KEY (office_id, number),
      FOREIGN KEY (organisation_id, office_id) REFERENCES offices (organisation_id, id) ON DELETE CASCADE,
      FOREIGN KEY (organisation_id, saved_by) REFERENCES users (organisation_id, id) ON DELETE SET NULL (saved_by)
    );
    CREATE INDEX office_versions_of ON office_versions (organisation_id, office_id);
    CREATE INDEX office_versions_by ON office_versions (organisation_id, saved_by);
    ALTER TABLE records ADD COLUMN office_id uuid,
      ADD FOREIGN KEY (organisation_id, office_id) REFERENCES offices (organisation_id, id) ON DELETE SET NULL (office_id);
    CREATE INDEX records_office ON records (organisation_id, office_id);
    -- None of a card's own and of the house style's.
    ALTER TABLE published_values ADD COLUMN office_id uuid,
      ADD FOREIGN KEY (organisation_id, office_id) REFERENCES offices (organisation_id, id) ON DELETE CASCADE;
    CREATE INDEX published_values_office ON published_values (organisation_id, office_id);
    ${['offices', 'office_versions']
      .map(
        (table) => `
    ALTER TABLE ${table} ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON ${table} USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    GRANT SELECT, INSERT, UPDATE, DELETE ON ${table} TO ${APP};`,
      )
      .join('')}
    ${REWRITTEN.map(([signature, change]) => rewriting(signature, change)).join('')}
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    ${REWRITTEN.map(([signature, [from, to]]) => rewriting(signature, [to, from])).join('')}
    ALTER TABLE published_values DROP COLUMN office_id;
    ALTER TABLE records DROP COLUMN office_id;
    DROP TABLE office_versions, offices;
  `);
}
