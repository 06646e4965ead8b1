import type { Knex } from 'knex';

const APP = 'heathland_app';

/** A tag knows how much it holds, when it was written and whether it was locked; what a frozen one carries may be written anew. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE hand_outs ADD COLUMN tag jsonb;
    GRANT UPDATE (tag, frozen, revision) ON hand_outs TO ${APP};
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    REVOKE UPDATE (frozen, revision) ON hand_outs FROM ${APP};
    ALTER TABLE hand_outs DROP COLUMN tag;
  `);
}
