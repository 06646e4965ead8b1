/** The roles of an organisation's members, from `product.md`. */
export const ROLES = ['owner', 'administrator', 'team leader', 'brand keeper', 'holder', 'analyst'] as const;
export type Role = (typeof ROLES)[number];

/**
 * How far a role reaches with an action: everything of the organisation, what belongs to the records of the teams that the member leads
 * and to their own, to their own record, or nothing.
 */
export type Reach = 'all' | 'team' | 'own' | 'none';

/**
 * What each role may do. Rows are actions, columns as {@link ROLES}: owner, administrator, team leader, brand keeper,
 * holder, analyst. An analyst sees figures and no details; a brand keeper sees cards and changes no person; a holder has their own, and a
 * team leader besides that what a holder has of everybody in the teams that they lead.
 */
const TABLE = {
  'record.read': ['all', 'all', 'team', 'all', 'own', 'none'],
  'record.write': ['all', 'all', 'team', 'none', 'own', 'none'],
  'team.read': ['all', 'all', 'team', 'all', 'none', 'none'],
  'team.write': ['all', 'all', 'none', 'none', 'none', 'none'],
  'roster.run': ['all', 'all', 'none', 'none', 'none', 'none'],
  'owned.write': ['all', 'all', 'none', 'none', 'none', 'none'],
  'record.create': ['all', 'all', 'none', 'none', 'none', 'none'],
  'card.read': ['all', 'all', 'team', 'all', 'own', 'none'],
  'card.write': ['all', 'all', 'team', 'all', 'own', 'none'],
  'card.create': ['all', 'all', 'team', 'none', 'own', 'none'],
  'card.publish': ['all', 'all', 'team', 'none', 'own', 'none'],
  'card.delete': ['all', 'all', 'team', 'none', 'own', 'none'],
  'record.delete': ['all', 'all', 'none', 'none', 'none', 'none'],
  'house.read': ['all', 'all', 'team', 'all', 'own', 'none'],
  'house.write': ['all', 'all', 'none', 'all', 'none', 'none'],
  'look.override': ['all', 'all', 'none', 'all', 'none', 'none'],
  'look.keep': ['own', 'own', 'own', 'own', 'own', 'none'],
  'audiences.write': ['all', 'all', 'none', 'all', 'none', 'none'],
  'addresses.write': ['all', 'all', 'none', 'none', 'none', 'none'],
  'hand-out.read': ['all', 'all', 'team', 'all', 'own', 'none'],
  'hand-out.make': ['all', 'all', 'team', 'none', 'own', 'none'],
  'privacy.read': ['all', 'all', 'team', 'none', 'own', 'none'],
  'code.reserve': ['all', 'all', 'none', 'none', 'none', 'none'],
  'contact.refer': ['own', 'own', 'own', 'own', 'own', 'none'],
  'lead.keep': ['all', 'all', 'team', 'own', 'own', 'none'],
  'picture.read': ['all', 'all', 'team', 'all', 'own', 'none'],
  'response.read': ['all', 'all', 'team', 'all', 'own', 'all'],
  'member.read': ['all', 'all', 'none', 'none', 'none', 'none'],
  'member.invite': ['all', 'all', 'none', 'none', 'none', 'none'],
  'member.manage': ['all', 'none', 'none', 'none', 'none', 'none'],
  'audit.read': ['all', 'none', 'none', 'none', 'none', 'none'],
  'job.read': ['all', 'own', 'own', 'own', 'own', 'own'],
  'record.export': ['all', 'all', 'team', 'none', 'own', 'none'],
  'settings.write': ['all', 'all', 'none', 'none', 'none', 'none'],
  'storage.read': ['all', 'all', 'none', 'none', 'none', 'none'],
  'fault.read': ['all', 'none', 'none', 'none', 'none', 'none'],
  'second-factor.require': ['all', 'none', 'none', 'none', 'none', 'none'],
  'session.manage': ['own', 'own', 'own', 'own', 'own', 'own'],
  'second-factor.manage': ['own', 'own', 'own', 'own', 'own', 'own'],
  'organisation.export': ['all', 'none', 'none', 'none', 'none', 'none'],
  'organisation.delete': ['all', 'none', 'none', 'none', 'none', 'none'],
  'account.delete': ['own', 'own', 'own', 'own', 'own', 'own'],
  'password.change': ['own', 'own', 'own', 'own', 'own', 'own'],
} as const satisfies Record<string, readonly [Reach, Reach, Reach, Reach, Reach, Reach]>;

export type Action = keyof typeof TABLE;
export const ACTIONS = Object.keys(TABLE) as Action[];

export const reachOf = (role: Role, action: Action): Reach => TABLE[action][ROLES.indexOf(role)]!;

/** Whom a permission is asked for: the role, the record that the member is the holder of, if any, and those of the teams that they lead. */
export type Asker = { role: Role; ownRecord: string | null; team: ReadonlySet<string> };

/** The records that a member reaches with an action. */
export function recordsWithin(asker: Asker, action: Action): 'all' | string[] {
  const reach = reachOf(asker.role, action);
  if (reach === 'all') return 'all';
  const own = reach === 'none' || asker.ownRecord === null ? [] : [asker.ownRecord];
  return reach === 'team' ? [...new Set([...own, ...asker.team])] : own;
}

/** Whether a member may do something with what belongs to a record. Pure: everything was loaded before. */
export function mayReach(asker: Asker, action: Action, recordId: string): boolean {
  const reach = reachOf(asker.role, action);
  if (reach === 'all' || reach === 'none') return reach === 'all';
  return asker.ownRecord === recordId || (reach === 'team' && asker.team.has(recordId));
}
