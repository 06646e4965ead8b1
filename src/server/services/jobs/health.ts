import { outsideTenants } from '@/server/db/pool';

/** Whether the database answers. */
export const databaseAnswers = (): Promise<boolean> =>
  outsideTenants((db) => db.raw('SELECT 1')).then(
    () => true,
    () => false,
  );
