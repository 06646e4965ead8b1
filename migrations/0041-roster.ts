import type { Knex } from 'knex';
import { rewriting } from './rewriting';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;
const RIGHTS = 'SECURITY DEFINER SET search_path = pg_catalog, public';
const secured = (table: string) => `
    ALTER TABLE ${table} ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON ${table} USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    GRANT SELECT, INSERT, UPDATE, DELETE ON ${table} TO ${APP};`;

const IMPORTED = 'UNION ALL SELECT concat(e.body, e.before) FROM public.import_entries e WHERE e.organisation_id =';
const ofRosters = (organisation: string) =>
  `UNION ALL SELECT w.before::text FROM public.roster_rows w WHERE w.organisation_id = ${organisation}
   UNION ALL SELECT p.picture FROM public.roster_pictures p WHERE p.organisation_id = ${organisation}`;
const EMPTIED = 'DELETE FROM public.spare_codes WHERE organisation_id = wanted;';
const ROSTER = ['roster_runs', 'roster_mappings', 'teams'];

/** What names a picture, and what goes with an organisation. */
const REWRITTEN: [signature: string, change: [from: string, to: string]][] = [
  ['forget_unnamed_files(timestamptz)', [`${IMPORTED} one.id`, `${IMPORTED} one.id ${ofRosters('one.id')}`]],
  [
    'forget_files_of(uuid, text[])',
    [`${IMPORTED} organisation`, `${IMPORTED} organisation ${ofRosters('organisation')}`],
  ],
  [
    'erase_organisation(uuid)',
    [
      EMPTIED,
      `${EMPTIED} ${ROSTER.map((table) => `DELETE FROM public.${table} WHERE organisation_id = wanted;`).join(' ')}`,
    ],
  ],
];

/**
 * People have a staff number, by which a sheet knows them again, days on which they join and leave, and what a roster wrote of them last. A
 * run of a roster keeps its rows, of each only the columns that were mapped, with what undoing needs; a person's rows go with the person.
 * Teams are flat, people in several.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE records ADD COLUMN staff_number text CHECK (length(staff_number) BETWEEN 1 AND 60), ADD COLUMN staff_key text,
      ADD COLUMN joins_on date, ADD COLUMN leaves_on date, ADD COLUMN left_on date, ADD COLUMN roster jsonb NOT NULL DEFAULT '{}';
    CREATE UNIQUE INDEX records_staff_key ON records (organisation_id, staff_key) WHERE staff_key IS NOT NULL AND deleted_at IS NULL;
    CREATE INDEX records_leaving ON records (leaves_on) WHERE leaves_on IS NOT NULL;
    CREATE INDEX records_by_name ON records (organisation_id, lower(written_name));
    CREATE TABLE teams (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL REFERENCES organisations,
      name text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
      UNIQUE (organisation_id, id)
    );
    CREATE UNIQUE INDEX teams_name ON teams (organisation_id, lower(name));
    CREATE TABLE team_members (
      organisation_id uuid NOT NULL,
      team_id uuid NOT NULL,
      record_id uuid NOT NULL,
      PRIMARY KEY (team_id, record_id),
      FOREIGN KEY (organisation_id, team_id) REFERENCES teams (organisation_id, id) ON DELETE CASCADE,
      FOREIGN KEY (organisation_id, record_id) REFERENCES records (organisation_id, id) ON DELETE CASCADE
    );
    CREATE INDEX team_members_of ON team_members (organisation_id, team_id);
    CREATE INDEX team_members_record ON team_members (organisation_id, record_id);
    CREATE TABLE roster_mappings (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL REFERENCES organisations,
      name text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
      columns jsonb NOT NULL,
      updated_at timestamptz NOT NULL
    );
    CREATE UNIQUE INDEX roster_mappings_name ON roster_mappings (organisation_id, lower(name));
    CREATE TABLE roster_runs (
      id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL REFERENCES organisations,
      user_id uuid NOT NULL,
      name text NOT NULL CHECK (length(name) BETWEEN 1 AND 80),
      card_id uuid,
      columns jsonb NOT NULL,
      place jsonb NOT NULL,
      options jsonb NOT NULL,
      state text NOT NULL CHECK (state IN ('mapping', 'reading', 'ready', 'running', 'done', 'undoing', 'undone')),
      job_id uuid,
      created_at timestamptz NOT NULL,
      updated_at timestamptz NOT NULL,
      -- Since when nothing of its sheet is kept any more.
      forgotten boolean NOT NULL DEFAULT false,
      UNIQUE (organisation_id, id),
      FOREIGN KEY (organisation_id, user_id) REFERENCES users (organisation_id, id),
      FOREIGN KEY (organisation_id, card_id) REFERENCES cards (organisation_id, id) ON DELETE SET NULL (card_id),
      FOREIGN KEY (organisation_id, job_id) REFERENCES jobs (organisation_id, id) ON DELETE SET NULL (job_id)
    );
    CREATE INDEX roster_runs_of ON roster_runs (organisation_id, created_at DESC);
    CREATE INDEX roster_runs_user ON roster_runs (organisation_id, user_id);
    CREATE INDEX roster_runs_card ON roster_runs (organisation_id, card_id);
    CREATE INDEX roster_runs_job ON roster_runs (organisation_id, job_id);
    CREATE TABLE roster_rows (
      organisation_id uuid NOT NULL,
      run_id uuid NOT NULL,
      -- The row as the sheet counts it; whom a complete sheet no longer has comes after all of its rows.
      at integer NOT NULL,
      cells jsonb NOT NULL,
      -- By what its person is known, so that rows of the same key are found.
      key text,
      name text NOT NULL DEFAULT '',
      verdict text CHECK (verdict IN ('new', 'changed', 'same', 'leaving', 'check', 'error')),
      remarks jsonb NOT NULL DEFAULT '[]',
      changes jsonb NOT NULL DEFAULT '[]',
      decision text CHECK (decision IN ('new', 'known')),
      take boolean NOT NULL DEFAULT false,
      record_id uuid,
      card_id uuid,
      picture text,
      -- What undoing needs: the record as it was, and the version that the run left.
      before jsonb,
      made_version integer,
      outcome text CHECK (outcome IN ('made', 'changed', 'left', 'as it was', 'failed')),
      published boolean NOT NULL DEFAULT false,
      problem jsonb,
      done_at timestamptz,
      undone boolean NOT NULL DEFAULT false,
      PRIMARY KEY (run_id, at),
      FOREIGN KEY (organisation_id, run_id) REFERENCES roster_runs (organisation_id, id) ON DELETE CASCADE,
      FOREIGN KEY (organisation_id, record_id) REFERENCES records (organisation_id, id) ON DELETE CASCADE,
      FOREIGN KEY (organisation_id, card_id) REFERENCES cards (organisation_id, id) ON DELETE SET NULL (card_id)
    );
    CREATE INDEX roster_rows_of ON roster_rows (organisation_id, run_id, at);
    CREATE INDEX roster_rows_key ON roster_rows (organisation_id, run_id, key) WHERE key IS NOT NULL;
    CREATE INDEX roster_rows_verdict ON roster_rows (organisation_id, run_id, verdict, at);
    CREATE INDEX roster_rows_record ON roster_rows (organisation_id, record_id);
    CREATE INDEX roster_rows_card ON roster_rows (organisation_id, card_id);
    CREATE TABLE roster_pictures (
      organisation_id uuid NOT NULL,
      run_id uuid NOT NULL,
      file_name text NOT NULL CHECK (length(file_name) BETWEEN 1 AND 200),
      -- The whole picture, and the square cut from it.
      picture text,
      square text,
      crop jsonb,
      width integer,
      height integer,
      problem jsonb,
      PRIMARY KEY (run_id, file_name),
      FOREIGN KEY (organisation_id, run_id) REFERENCES roster_runs (organisation_id, id) ON DELETE CASCADE
    );
    CREATE INDEX roster_pictures_of ON roster_pictures (organisation_id, run_id);
    ${['teams', 'team_members', 'roster_mappings', 'roster_runs', 'roster_rows', 'roster_pictures'].map(secured).join('')}
    -- Whose last day has come somewhere on earth, and who has not been seen to since.
    CREATE FUNCTION due_leavers(moment timestamptz) RETURNS TABLE (organisation_id uuid, record_id uuid) LANGUAGE sql STABLE ${RIGHTS} AS $$
      SELECT r.organisation_id, r.id FROM public.records r JOIN public.organisations o ON o.id = r.organisation_id
      WHERE r.leaves_on IS NOT NULL AND r.leaves_on <= ((moment AT TIME ZONE 'UTC') + interval '14 hours')::date
        AND r.left_on IS DISTINCT FROM r.leaves_on AND r.deleted_at IS NULL AND o.deleted_at IS NULL
      ORDER BY r.leaves_on LIMIT 500
    $$;
    REVOKE ALL ON FUNCTION due_leavers(timestamptz) FROM PUBLIC;
    GRANT EXECUTE ON FUNCTION due_leavers(timestamptz) TO ${APP};
    CREATE FUNCTION forget_rosters(before timestamptz) RETURNS void LANGUAGE plpgsql VOLATILE ${RIGHTS} AS $$
    BEGIN
      DELETE FROM public.roster_runs WHERE updated_at < before AND state IN ('mapping', 'reading', 'ready');
      WITH old AS (
        UPDATE public.roster_runs SET forgotten = true
        WHERE updated_at < before AND NOT forgotten AND state IN ('done', 'undone') RETURNING id
      ), pictures AS (DELETE FROM public.roster_pictures p USING old WHERE p.run_id = old.id)
      UPDATE public.roster_rows w SET cells = '{}', changes = '[]', before = NULL FROM old WHERE w.run_id = old.id;
    END $$;
    REVOKE ALL ON FUNCTION forget_rosters(timestamptz) FROM PUBLIC;
    GRANT EXECUTE ON FUNCTION forget_rosters(timestamptz) TO ${APP};
    ${REWRITTEN.map(([signature, change]) => rewriting(signature, change)).join('')}
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    ${[...REWRITTEN]
      .reverse()
      .map(([signature, [from, to]]) => rewriting(signature, [to, from]))
      .join('')}
    DROP FUNCTION due_leavers(timestamptz);
    DROP FUNCTION forget_rosters(timestamptz);
    DROP TABLE roster_pictures, roster_rows, roster_runs, roster_mappings, team_members, teams;
    DROP INDEX records_by_name;
    ALTER TABLE records DROP COLUMN staff_number, DROP COLUMN staff_key, DROP COLUMN joins_on, DROP COLUMN leaves_on, DROP COLUMN left_on, DROP COLUMN roster;
  `);
}
