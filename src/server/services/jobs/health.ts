import { hasLostLogin } from '@/server/db/jobs/failures';
import { answersNow } from '@/server/db/pool';

/** What is wrong with the database, in words for whoever watches this process; null when it answers. */
export const databaseTrouble = (): Promise<string | null> =>
  answersNow().then(
    () => null,
    (error: unknown) =>
      hasLostLogin(error)
        ? 'the database no longer lets this process in: SESSION_SECRET is not one that it knows'
        : 'the database does not answer',
  );
