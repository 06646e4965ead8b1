import Link from 'next/link';
import { reachOf, type Action, type Role } from '@/core/access';

type Turn = 'members' | 'audit' | 'jobs';
const TURNS: { turn: Turn; word: string; path: string; action: Action }[] = [
  { turn: 'members', word: 'Members', path: '/company/members', action: 'member.read' },
  { turn: 'audit', word: 'Audit trail', path: '/company/audit', action: 'audit.read' },
  { turn: 'jobs', word: 'Jobs', path: '/company/jobs', action: 'job.read' },
];

/** The header of the company's section with the turns that a role includes. */
export function CompanyHead({ role, turn }: { role: Role; turn: Turn }) {
  return (
    <>
      <header className="head">
        <h1>Company</h1>
      </header>
      <nav className="turns" aria-label="Turns of the company">
        {TURNS.filter(({ action }) => reachOf(role, action) !== 'none').map(({ turn: each, word, path }) => (
          <Link
            key={each}
            href={path}
            className={each === turn ? 'on' : ''}
            aria-current={each === turn ? 'page' : undefined}
          >
            {word}
          </Link>
        ))}
      </nav>
    </>
  );
}
