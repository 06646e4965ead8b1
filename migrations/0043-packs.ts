import type { Knex } from 'knex';
import { rewriting } from './rewriting';

const APP = 'heathland_app';
const TENANT = `nullif(current_setting('heathland.organisation', true), '')::uuid`;

const MADE = 'DELETE FROM public.made_files m WHERE m.records @> ARRAY[wanted];';
const FILES =
  'UNION SELECT m.file::text FROM public.made_files m WHERE m.organisation_id = wanted AND m.file IS NOT NULL';

/** A file that shows somebody goes with them in all its parts, and all of an organisation's with it. */
const ERASING: [signature: string, change: [from: string, to: string]][] = [
  [
    'erase_record(uuid)',
    [
      MADE,
      `hashes := hashes || ARRAY(SELECT p.file::text FROM public.made_parts p JOIN public.made_files m ON m.job_id = p.job_id WHERE m.records @> ARRAY[wanted]);
        ${MADE}`,
    ],
  ],
  [
    'erase_organisation(uuid)',
    [FILES, `${FILES} UNION SELECT p.file::text FROM public.made_parts p WHERE p.organisation_id = wanted`],
  ],
];

/** A file of a job that is too large to be held at once lies in the store in parts, which follow on one another. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE made_files ADD CONSTRAINT made_files_of_organisation UNIQUE (organisation_id, job_id);
    CREATE TABLE made_parts (
      organisation_id uuid NOT NULL,
      job_id uuid NOT NULL,
      at integer NOT NULL,
      file stored_file NOT NULL,
      bytes integer NOT NULL,
      PRIMARY KEY (job_id, at),
      FOREIGN KEY (organisation_id, job_id) REFERENCES made_files (organisation_id, job_id) ON DELETE CASCADE
    );
    CREATE INDEX made_parts_of ON made_parts (organisation_id, job_id);
    ALTER TABLE made_parts ENABLE ROW LEVEL SECURITY;
    CREATE POLICY tenant ON made_parts USING (organisation_id = ${TENANT}) WITH CHECK (organisation_id = ${TENANT});
    GRANT SELECT, INSERT, UPDATE, DELETE ON made_parts TO ${APP};
    ${ERASING.map(([signature, change]) => rewriting(signature, change)).join('')}
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    ${ERASING.map(([signature, [from, to]]) => rewriting(signature, [to, from])).join('')}
    DROP TABLE made_parts;
    ALTER TABLE made_files DROP CONSTRAINT made_files_of_organisation;
  `);
}
