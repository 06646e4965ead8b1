import { confirmPassword, readFresh } from '@/server/services/accounts/fresh';
import {
  beginSecondFactor,
  confirmSecondFactor,
  dropSecondFactor,
  readSecondFactor,
  requireSecondFactor,
  resetSecondFactor,
} from '@/server/services/accounts/second-factor';
import {
  actorOf,
  beginSession,
  endOtherSessions,
  endOwnSession,
  listSessions,
} from '@/server/services/accounts/sessions';
import { askAgain, askToMove } from '@/server/services/accounts/own-address';
import { readTray } from '@/server/services/mail/read-tray';
import type { Attempt } from './attempts';
import { clock, FIRST } from './belongings';

/** No mail leaves here: whoever gets as far as that was let in. */
const withoutMail = (asked: Promise<void>): Promise<void> =>
  asked.catch((error: { problem?: { code: string } }) => {
    if (error.problem?.code !== 'MAIL_CLOSED') throw error;
  });

/** Attempts at the services of a member's own sign-in. */
export const SIGN_IN_ATTEMPTS: Record<string, Attempt> = {
  askAgain: { action: 'session.manage', run: (actor) => withoutMail(askAgain(actor, clock)) },
  askToMove: {
    action: 'password.change',
    run: (actor) => withoutMail(askToMove(actor, 'next@heath.example', clock)),
  },
  readTray: { action: 'session.manage', run: (actor) => readTray(actor) },
  readFresh: { action: 'session.manage', run: (actor) => readFresh(actor, clock) },
  confirmPassword: { action: 'session.manage', run: (actor) => confirmPassword(actor, FIRST, clock) },
  listSessions: { action: 'session.manage', run: (actor) => listSessions(actor, clock) },
  endOtherSessions: { action: 'session.manage', act: 'session.ended', run: (actor) => endOtherSessions(actor, clock) },
  endOwnSession: {
    action: 'session.manage',
    act: 'session.ended',
    run: async (actor) => {
      const row = { id: actor.userId, organisation_id: actor.organisationId };
      const other = (await actorOf(await beginSession(row, 'phone', clock), clock))!;
      await endOwnSession(actor, other.sessionId, clock);
    },
  },
  readSecondFactor: { action: 'second-factor.manage', run: (actor) => readSecondFactor(actor) },
  beginSecondFactor: { action: 'second-factor.manage', run: (actor) => beginSecondFactor(actor, clock) },
  confirmSecondFactor: {
    action: 'second-factor.manage',
    run: (actor) =>
      confirmSecondFactor(actor, '000000', clock).catch((error: { problem: { code: string } }) => {
        if (error.problem.code !== 'SECOND_FACTOR_WRONG') throw error;
      }),
  },
  dropSecondFactor: {
    action: 'second-factor.manage',
    act: 'second-factor.off',
    run: (actor) => dropSecondFactor(actor, clock),
  },
  resetSecondFactor: {
    action: 'member.manage',
    of: true,
    act: 'second-factor.reset',
    run: (actor, { member }) => resetSecondFactor(actor, member, clock),
  },
  requireSecondFactor: {
    action: 'second-factor.require',
    act: 'second-factor.required',
    run: (actor) => requireSecondFactor(actor, false, clock),
  },
};
