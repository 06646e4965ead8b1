import { mayReach, reachOf, type Action, type Reach } from '@/core/access';
import { Refusal } from '@/core/errors';
import type { Actor } from './actor';

const BEFORE_SECOND_FACTOR = new Set<Action>(['password.change', 'second-factor.manage', 'session.manage']);

/** What is left to do in an organisation that is deleted. */
const WHILE_DELETED = new Set<Action>([
  'organisation.export',
  'organisation.delete',
  'account.delete',
  'session.manage',
  'second-factor.manage',
  'password.change',
]);

/**
 * Refuses what the member's role does not include at all, before anything is loaded; answers with how far it reaches.
 * Errors: NOT_ALLOWED, ORGANISATION_DELETED, PASSWORD_MUST_CHANGE, SECOND_FACTOR_REQUIRED.
 */
export function authorise(actor: Actor, action: Action): Exclude<Reach, 'none'> {
  const reach = reachOf(actor.role, action);
  if (reach === 'none') throw new Refusal({ code: 'NOT_ALLOWED' });
  if (actor.mustChangePassword && action !== 'password.change' && action !== 'session.manage')
    throw new Refusal({ code: 'PASSWORD_MUST_CHANGE' });
  if (actor.deletedAt !== undefined && !WHILE_DELETED.has(action)) throw new Refusal({ code: 'ORGANISATION_DELETED' });
  if (actor.mustSetUpSecondFactor && !BEFORE_SECOND_FACTOR.has(action))
    throw new Refusal({ code: 'SECOND_FACTOR_REQUIRED' });
  return reach;
}

/** Once more when it is known whose it is: what is not the member's own is as if it were not there. Error: NOT_FOUND. */
export function authoriseFor(actor: Actor, action: Action, recordId: string): void {
  authorise(actor, action);
  if (!mayReach(actor, action, recordId)) throw new Refusal({ code: 'NOT_FOUND' });
}
