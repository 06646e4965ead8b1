import type { Role } from '@/core/access';

export type ShownMember = {
  id: string;
  name: string;
  email: string;
  role: Role;
  ownRecord: string | null;
  ownRecordName: string | null;
  mustChangePassword: boolean;
  hasLeft: boolean;
};

/** What each role is for, in one line. */
export const ROLE_NOTES: Record<Role, string> = {
  owner: 'everything, members and the audit trail included',
  administrator: 'everybody’s records, cards and hand-outs',
  'brand keeper': 'sees all cards and words them; changes no record, publishes nothing',
  holder: 'their own record and cards',
  analyst: 'figures only, no details',
};
