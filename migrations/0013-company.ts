import type { Knex } from 'knex';

/** What an organisation says of itself below each of its pages: links to its imprint, its privacy notice, its accessibility statement. */
export const up = (knex: Knex): Promise<void> =>
  knex.raw(`ALTER TABLE organisations ADD COLUMN links jsonb NOT NULL DEFAULT '{}'`);

export const down = (knex: Knex): Promise<void> => knex.raw('ALTER TABLE organisations DROP COLUMN links');
