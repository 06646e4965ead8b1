import type { Asker } from '@/core/access';

/** The signed-in member on whose behalf a service acts, and their organisation. */
export type Actor = Asker & {
  userId: string;
  name: string;
  /** Somebody else chose the password: nothing is allowed before it is changed. */
  mustChangePassword: boolean;
  organisationId: string;
  organisation: { name: string; country: string; timeZone: string };
};
