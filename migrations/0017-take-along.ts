import type { Knex } from 'knex';

const APP = 'heathland_app';

/** An archive says of which version it is; the application may read that of its own database. */
export const up = (knex: Knex): Promise<void> => knex.raw(`GRANT SELECT ON knex_migrations TO ${APP}`);

export const down = (knex: Knex): Promise<void> => knex.raw(`REVOKE SELECT ON knex_migrations FROM ${APP}`);
