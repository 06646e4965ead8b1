import type { Knex } from 'knex';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;

/** What an erased organisation loses besides, after its hand-outs. */
const ERASED = ['placements', 'occasions', 'code_styles'];
const BEFORE = 'DELETE FROM public.revisions WHERE organisation_id = wanted;';
const MORE = ERASED.map((table) => `DELETE FROM public.${table} WHERE organisation_id = wanted;`).join(' ');

/** Writes the function that erases an organisation again, with one text in place of another. */
const erasing = (from: string, to: string) => `
  DO $do$ BEGIN
    EXECUTE replace(pg_get_functiondef('erase_organisation(uuid)'::regprocedure), $t$${from}$t$, $t$${to}$t$);
  END $do$;`;

const tenantTable = (name: string) => `
  ALTER TABLE ${name} ENABLE ROW LEVEL SECURITY;
  CREATE POLICY tenant ON ${name} USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});`;

/**
 * Hand-outs keep what they hold and how they are drawn. Placements are places, occasions are fairs and meetings; a style of code is proven once a version
 * and level. Of a hand-out that is being tested the next scan is its test and no view.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    CREATE TABLE placements (
      id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
      organisation_id uuid NOT NULL REFERENCES organisations,
      name text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
      created_at timestamptz NOT NULL DEFAULT now(),
      UNIQUE (organisation_id, id)
    );
    CREATE UNIQUE INDEX placements_by_name ON placements (organisation_id, lower(name));
    CREATE TABLE occasions (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL REFERENCES organisations,
      name text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
      place text NOT NULL DEFAULT '' CHECK (length(place) <= 80),
      first_day date NOT NULL,
      last_day date NOT NULL CHECK (last_day >= first_day),
      created_at timestamptz NOT NULL DEFAULT now(),
      UNIQUE (organisation_id, id)
    );
    CREATE INDEX occasions_by_day ON occasions (organisation_id, last_day DESC);
    CREATE TABLE code_styles (
      organisation_id uuid NOT NULL REFERENCES organisations,
      hash text NOT NULL CHECK (length(hash) = 64),
      version integer NOT NULL CHECK (version BETWEEN 1 AND 40),
      level text NOT NULL CHECK (level IN ('L', 'M', 'Q', 'H')),
      proof jsonb NOT NULL,
      created_at timestamptz NOT NULL DEFAULT now(),
      PRIMARY KEY (organisation_id, hash, version, level)
    );
    ${['placements', 'occasions', 'code_styles'].map(tenantTable).join('')}
    GRANT SELECT, INSERT ON placements, occasions, code_styles TO ${APP};

    INSERT INTO placements (organisation_id, name)
      SELECT DISTINCT ON (organisation_id, lower(placement)) organisation_id, placement FROM hand_outs ORDER BY organisation_id, lower(placement), created_at;
    ALTER TABLE hand_outs
      ADD COLUMN placement_id uuid,
      ADD COLUMN occasion_id uuid,
      ADD COLUMN content jsonb,
      ADD COLUMN drawn jsonb,
      ADD COLUMN proof jsonb,
      ADD COLUMN testing_until timestamptz,
      ADD COLUMN tested_at timestamptz,
      ADD FOREIGN KEY (organisation_id, placement_id) REFERENCES placements (organisation_id, id),
      ADD FOREIGN KEY (organisation_id, occasion_id) REFERENCES occasions (organisation_id, id);
    UPDATE hand_outs h SET placement_id = p.id FROM placements p
      WHERE p.organisation_id = h.organisation_id AND lower(p.name) = lower(h.placement);
    CREATE INDEX hand_outs_of_placement ON hand_outs (organisation_id, placement_id);
    CREATE INDEX hand_outs_of_occasion ON hand_outs (organisation_id, occasion_id);
    GRANT UPDATE (drawn, proof, testing_until, tested_at) ON hand_outs TO ${APP};
    ${erasing(BEFORE, `${MORE} ${BEFORE}`)}
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    ${erasing(`${MORE} ${BEFORE}`, BEFORE)}
    ALTER TABLE hand_outs DROP COLUMN placement_id, DROP COLUMN occasion_id, DROP COLUMN content, DROP COLUMN drawn, DROP COLUMN proof,
      DROP COLUMN testing_until, DROP COLUMN tested_at;
    DROP TABLE placements, occasions, code_styles;
  `);
}
