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
  secondFactor: boolean;
};
