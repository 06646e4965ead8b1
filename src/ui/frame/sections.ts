import { reachOf, type Action, type Role } from '@/core/access';
import { FRAME } from '@/core/words';

/** The screen on which a phone holds a card up. */
export const HAND_OVER = '/hand-over';

/** The sections of the studio: their words, their letter after `g`, and the action that a role needs to see them. */
const SECTIONS: { href: string; word: string; letter: string; also: string[]; action: Action }[] = [
  {
    href: '/people',
    word: FRAME.section.people,
    letter: 'p',
    also: ['/cards/', '/imports/', '/refer', '/copies', '/privacy', '/tags', '/roster'],
    action: 'record.read',
  },
  { href: HAND_OVER, word: FRAME.section.handOver, letter: 'h', also: [], action: 'hand-out.make' },
  { href: '/response', word: FRAME.section.response, letter: 'r', also: [], action: 'response.read' },
  { href: '/leads', word: FRAME.section.leads, letter: 'l', also: [], action: 'lead.keep' },
  { href: '/company', word: FRAME.section.company, letter: 'c', also: ['/jobs/'], action: 'member.read' },
];

/** Whose studio it is: the role, and whether they work alone, who have an account and no company. */
export type Member = { role: Role; alone: boolean };

export const sectionsOf = ({ role, alone }: Member) =>
  SECTIONS.filter(({ action }) => reachOf(role, action) !== 'none').map((section) =>
    alone && section.href === '/company' ? { ...section, word: FRAME.section.account } : section,
  );
