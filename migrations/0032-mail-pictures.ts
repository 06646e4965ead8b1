import type { Knex } from 'knex';

const APP = 'heathland_app';

/** Writes the functions that erase pictures again, with one more form or without it. */
const erasing = (from: (of: string) => string, to: (of: string) => string) =>
  [
    ['forget_files_of(uuid, text[])', 'g'],
    ['erase_organisation(uuid)', 'p'],
  ]
    .map(
      ([name, of]) => `
  DO $do$ DECLARE before text := pg_get_functiondef('${name}'::regprocedure); BEGIN
    IF position($t$${from(of!)}$t$ IN before) = 0 THEN RAISE EXCEPTION '% names no forms', '${name}'; END IF;
    EXECUTE replace(before, $t$${from(of!)}$t$, $t$${to(of!)}$t$);
  END $do$;`,
    )
    .join('');

const without = (of: string) => `${of}.page_webp::text`;
const withIt = (of: string) => `${of}.page_webp::text, ${of}.mail_png::text`;

/** Pictures in the form in which mails show them on whatever ground, made once. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE pictures ADD COLUMN mail_png stored_file;
    GRANT UPDATE (mail_png) ON pictures TO ${APP};
    ${erasing(without, withIt)}
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    ${erasing(withIt, without)}
    ALTER TABLE pictures DROP COLUMN mail_png;
  `);
}
