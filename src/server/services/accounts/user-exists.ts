import { userByEmail } from '@/server/db/accounts/accounts';
import { outsideTenants } from '@/server/db/pool';

/** Whether an account has this e-mail address; for the commands of an installation, not for the web. */
export const userExists = (email: string): Promise<boolean> =>
  outsideTenants(async (db) => (await userByEmail(db, email)) !== undefined);
