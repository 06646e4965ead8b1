import { reachOf, type Action, type Role } from '@/core/access';

/** The sections of the studio: their words, their letter after `g`, and the action that a role needs to see them. */
const SECTIONS: { href: string; word: string; letter: string; also: string[]; action: Action }[] = [
  { href: '/people', word: 'People', letter: 'p', also: ['/cards/'], action: 'record.read' },
  { href: '/response', word: 'Response', letter: 'r', also: [], action: 'response.read' },
  { href: '/company', word: 'Company', letter: 'c', also: ['/jobs/'], action: 'member.read' },
];

export const sectionsOf = (role: Role) => SECTIONS.filter(({ action }) => reachOf(role, action) !== 'none');
