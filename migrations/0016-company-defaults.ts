import type { Knex } from 'knex';

/** What an organisation gives its members to begin with: languages, texts, whom to ask, patterns of links. */
export const up = (knex: Knex): Promise<void> =>
  knex.raw(`ALTER TABLE organisations ADD COLUMN defaults jsonb NOT NULL DEFAULT '{}'`);

export const down = (knex: Knex): Promise<void> => knex.raw('ALTER TABLE organisations DROP COLUMN defaults');
