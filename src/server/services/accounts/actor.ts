import type { Asker } from '@/core/access';
import type { CompanyDefaults } from '@/core/company';

/** The signed-in member on whose behalf a service acts, and their organisation. */
export type Actor = Asker & {
  userId: string;
  name: string;
  email: string;
  /** Whether whoever reads that address said that it is theirs. */
  emailConfirmed: boolean;
  /** Somebody else chose the password: nothing is allowed before it is changed. */
  mustChangePassword: boolean;
  /** Whether they have a second factor, and whether their organisation wants one that they have not: nothing else is allowed then. */
  secondFactor: boolean;
  mustSetUpSecondFactor: boolean;
  /** The session that they act in, empty for work that goes on without them, and when its password was typed (milliseconds, UTC). */
  sessionId: string;
  confirmedAt: number;
  organisationId: string;
  organisation: { name: string; country: string; timeZone: string; defaults: CompanyDefaults };
  /** Nobody else is a member. */
  alone: boolean;
  /** When the organisation was deleted (milliseconds, UTC): nothing but bringing it back is allowed; absent otherwise. */
  deletedAt?: number;
};
