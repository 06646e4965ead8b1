import Link from 'next/link';
import { reachOf, type Action, type Role } from '@/core/access';
import { COMPANY, FRAME, HOUSE, SPARES } from '@/core/words';

type Turn =
  | 'settings'
  | 'members'
  | 'teams'
  | 'offices'
  | 'house-style'
  | 'audiences'
  | 'addresses'
  | 'codes'
  | 'storage'
  | 'audit'
  | 'jobs';
const TURNS: { turn: Turn; word: string; path: string; action: Action }[] = [
  { turn: 'settings', word: COMPANY.turn.settings, path: '/company/settings', action: 'settings.write' },
  { turn: 'members', word: COMPANY.turn.members, path: '/company/members', action: 'member.read' },
  { turn: 'teams', word: COMPANY.turn.teams, path: '/company/teams', action: 'team.read' },
  { turn: 'offices', word: COMPANY.turn.offices, path: '/company/offices', action: 'house.write' },
  { turn: 'audiences', word: COMPANY.turn.audiences, path: '/company/audiences', action: 'audiences.write' },
  { turn: 'house-style', word: HOUSE.turn, path: '/company/house-style', action: 'house.write' },
  { turn: 'addresses', word: COMPANY.turn.addresses, path: '/company/addresses', action: 'addresses.write' },
  { turn: 'codes', word: SPARES.turn, path: '/company/codes', action: 'code.reserve' },
  { turn: 'storage', word: COMPANY.turn.storage, path: '/company/storage', action: 'storage.read' },
  { turn: 'audit', word: COMPANY.turn.audit, path: '/company/audit', action: 'audit.read' },
  { turn: 'jobs', word: COMPANY.turn.jobs, path: '/company/jobs', action: 'job.read' },
];

/** The header of the company's section with the turns that a role includes; whoever works alone has no members to see. */
export function CompanyHead({ actor: { role, alone }, turn }: { actor: { role: Role; alone: boolean }; turn: Turn }) {
  const shown = TURNS.filter(
    ({ turn: each, action }) =>
      reachOf(role, action) !== 'none' && !(alone && (each === 'members' || each === 'teams') && turn !== each),
  );
  return (
    <>
      <header className="head">
        <h1>{alone ? FRAME.section.account : COMPANY.title}</h1>
      </header>
      <nav className="turns" aria-label={COMPANY.turns}>
        {shown.map(({ turn: each, word, path }) => (
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
