import Link from 'next/link';
import { reachOf, type Action, type Role } from '@/core/access';
import { COMPANY, HOUSE } from '@/core/messages';

type Turn = 'members' | 'house-style' | 'audiences' | 'addresses' | 'storage' | 'audit' | 'jobs';
const TURNS: { turn: Turn; word: string; path: string; action: Action }[] = [
  { turn: 'members', word: COMPANY.turn.members, path: '/company/members', action: 'member.read' },
  { turn: 'audiences', word: COMPANY.turn.audiences, path: '/company/audiences', action: 'audiences.write' },
  { turn: 'house-style', word: HOUSE.turn, path: '/company/house-style', action: 'house.write' },
  { turn: 'addresses', word: COMPANY.turn.addresses, path: '/company/addresses', action: 'addresses.write' },
  { turn: 'storage', word: COMPANY.turn.storage, path: '/company/storage', action: 'storage.read' },
  { turn: 'audit', word: COMPANY.turn.audit, path: '/company/audit', action: 'audit.read' },
  { turn: 'jobs', word: COMPANY.turn.jobs, path: '/company/jobs', action: 'job.read' },
];

/** The header of the company's section with the turns that a role includes. */
export function CompanyHead({ role, turn }: { role: Role; turn: Turn }) {
  return (
    <>
      <header className="head">
        <h1>{COMPANY.title}</h1>
      </header>
      <nav className="turns" aria-label={COMPANY.turns}>
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
