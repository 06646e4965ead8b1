import type { Knex } from 'knex';
import { rewriting } from './rewriting';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;

const RECORD = 'DELETE FROM public.records WHERE id = wanted;';
const IMPORTS =
  'UNION SELECT i.file::text FROM public.imports i WHERE i.organisation_id = wanted AND i.file IS NOT NULL';

/** A file that shows somebody goes with them, and all of an organisation's with it. */
const ERASING: [signature: string, change: [from: string, to: string]][] = [
  [
    'erase_record(uuid)',
    [
      RECORD,
      `hashes := hashes || ARRAY(SELECT m.file::text FROM public.made_files m WHERE m.records @> ARRAY[wanted] AND m.file IS NOT NULL);
        DELETE FROM public.made_files m WHERE m.records @> ARRAY[wanted]; ${RECORD}`,
    ],
  ],
  [
    'erase_organisation(uuid)',
    [
      IMPORTS,
      `${IMPORTS} UNION SELECT m.file::text FROM public.made_files m WHERE m.organisation_id = wanted AND m.file IS NOT NULL`,
    ],
  ],
];

/**
 * A job may make a file, which is kept as long as the job is told of; what had to be left out of it is kept beside it. It goes with
 * whoever it shows.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE jobs ADD CONSTRAINT jobs_of_organisation UNIQUE (organisation_id, id);
    CREATE TABLE made_files (
      job_id uuid PRIMARY KEY,
      organisation_id uuid NOT NULL,
      file stored_file,
      name text NOT NULL CHECK (length(name) <= 120),
      bytes bigint NOT NULL,
      left_out jsonb NOT NULL,
      records uuid[] NOT NULL,
      created_at timestamptz NOT NULL,
      FOREIGN KEY (organisation_id, job_id) REFERENCES jobs (organisation_id, id) ON DELETE CASCADE
    );
    CREATE INDEX made_files_of_job ON made_files (organisation_id, job_id);
    CREATE INDEX made_files_of_record ON made_files USING gin (records);
    ALTER TABLE made_files ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON made_files USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    GRANT SELECT, INSERT, UPDATE, DELETE ON made_files TO ${APP};
    ${ERASING.map(([signature, change]) => rewriting(signature, change)).join('')}
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    ${ERASING.map(([signature, [from, to]]) => rewriting(signature, [to, from])).join('')}
    DROP TABLE made_files;
    ALTER TABLE jobs DROP CONSTRAINT jobs_of_organisation;
  `);
}
