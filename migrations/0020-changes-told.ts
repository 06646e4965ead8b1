import type { Knex } from 'knex';

/** Whoever has a card, a person or a job on screen hears of its change by its id (NOTIFY), which tells nobody else anything. */
const TOLD: Record<string, string> = {
  cards: 'UPDATE OF version, state, deleted_at OR DELETE',
  records: 'UPDATE OF version, deleted_at OR DELETE',
  jobs: 'UPDATE OR DELETE',
};

export const up = (knex: Knex): Promise<void> =>
  knex.raw(`
    CREATE FUNCTION change_is_told() RETURNS trigger LANGUAGE plpgsql SET search_path = pg_catalog AS $$
    BEGIN
      PERFORM pg_notify('heathland_changes', OLD.id::text);
      RETURN NULL;
    END $$;
    REVOKE ALL ON FUNCTION change_is_told() FROM PUBLIC;
    ${Object.entries(TOLD)
      .map(
        ([table, when]) =>
          `CREATE TRIGGER change_is_told AFTER ${when} ON ${table} FOR EACH ROW EXECUTE FUNCTION change_is_told();`,
      )
      .join('\n')}
  `);

export const down = (knex: Knex): Promise<void> =>
  knex.raw(`
    ${Object.keys(TOLD)
      .map((table) => `DROP TRIGGER change_is_told ON ${table};`)
      .join('\n')}
    DROP FUNCTION change_is_told();
  `);
