import { inTenant } from '@/server/db/pool';
import {
  addMember,
  bringBackMember,
  changeMember,
  listMembers,
  removeMember,
  setFirstPassword,
} from '@/server/services/accounts/members';
import type { Attempt } from './attempts';
import { clock, FIRST, next } from './belongings';

/** Attempts at the services of an organisation's members. */
export const MEMBER_ATTEMPTS: Record<string, Attempt> = {
  listMembers: { action: 'member.read', run: (actor) => listMembers(actor, {}, clock) },
  addMember: {
    action: 'member.manage',
    act: 'member.added',
    run: (actor) =>
      addMember(
        actor,
        {
          name: 'N',
          email: `added-${next()}@heath.example`,
          role: 'analyst',
          ownRecord: null,
          password: 'long enough it is',
        },
        clock,
      ),
  },
  changeMember: {
    action: 'member.manage',
    of: true,
    act: 'member.changed',
    run: (actor, { member, recordId }) =>
      changeMember(actor, member, { role: 'analyst', ownRecord: recordId }, clock).then(() =>
        changeMember(actor, member, { role: 'holder', ownRecord: recordId }, clock),
      ),
  },
  setFirstPassword: {
    action: 'member.manage',
    of: true,
    act: 'member.password-set',
    run: (actor, { member }) => setFirstPassword(actor, member, FIRST, clock),
  },
  removeMember: {
    action: 'member.manage',
    of: true,
    act: 'member.removed',
    run: async (actor, { member }) => {
      await removeMember(actor, member, clock);
      await inTenant(actor.organisationId, (tx) => tx('users').where({ id: member }).update({ left_at: null }));
    },
  },
  bringBackMember: {
    action: 'member.manage',
    of: true,
    act: 'member.brought-back',
    run: async (actor, { member }) => {
      const left = (left_at: Date | null) =>
        inTenant(actor.organisationId, (tx) => tx('users').where({ id: member }).update({ left_at }));
      await left(new Date(clock.now()));
      try {
        await bringBackMember(actor, member, FIRST, clock);
      } finally {
        await left(null);
      }
    },
  },
};
