import type { Knex } from 'knex';

const APP = 'heathland_app';

/** When a file of a hand-out was first taken out: from then on a frozen one may be printed, and is not drawn otherwise any more. Occasions are kept right. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    ALTER TABLE hand_outs ADD COLUMN taken_at timestamptz;
    -- What was made before this was asked may have been printed.
    UPDATE hand_outs SET taken_at = now() WHERE frozen IS NOT NULL AND channel = 'code';
    GRANT UPDATE (taken_at) ON hand_outs TO ${APP};
    GRANT UPDATE (name, place, first_day, last_day), DELETE ON occasions TO ${APP};
  `);
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    REVOKE UPDATE, DELETE ON occasions FROM ${APP};
    ALTER TABLE hand_outs DROP COLUMN taken_at;
  `);
}
