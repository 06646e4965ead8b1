'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { ROLES, type Role } from '@/core/access';
import type { Problem } from '@/core/errors';
import { COMPANY, FRAME, ROLE_NOTES } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { FirstPassword } from './first-password';
import type { ShownMember } from '@/core/shown';
import { Invited } from './invited';
import { membersAt, MembersSearch } from './members-search';
import { NewMember } from './new-member';
import { OwnRecord } from './own-record';
import { RemoveMember } from './remove-member';

type Props = {
  page: { members: ShownMember[]; next: string | null; present: number };
  /** What the page is narrowed to, as its address says it. */
  asked: { words: string; after: string | null };
  manages: boolean;
  me: string;
  required: boolean;
  mayInvite: boolean;
  zone: string;
};

/** Of more than so many one is looked for by name. */
const FEW = 12;

/** Who signs in, with their role; the owner adds, changes and removes them. */
export function Members({ page, asked, manages, me, required, mayInvite, zone }: Props) {
  const router = useRouter();
  const [problem, setProblem] = useState<{ id: string; problem: Problem } | null>(null);
  const [open, setOpen] = useState<{ what: 'new' | 'password' | 'back' | 'remove'; member?: ShownMember } | null>(null);
  const done = () => {
    setOpen(null);
    router.refresh();
  };

  async function resetFactor(member: ShownMember) {
    const answer = await call(`/api/members/${member.id}/second-factor`, { method: 'DELETE' });
    setProblem(answer.ok ? null : { id: member.id, problem: answer.problem });
    router.refresh();
  }
  async function requireFactor(wanted: boolean) {
    const answer = await call('/api/second-factor/required', { method: 'PUT', json: { required: wanted } });
    setProblem(answer.ok ? null : { id: '', problem: answer.problem });
    router.refresh();
  }

  async function change(member: ShownMember, role: Role, ownRecord: string | null) {
    const answer = await call(`/api/members/${member.id}`, { method: 'PUT', json: { role, ownRecord } });
    setProblem(answer.ok ? null : { id: member.id, problem: answer.problem });
    router.refresh();
  }

  return (
    <section className="company">
      <div className="company-acts">
        <p className="small">{manages ? COMPANY.managesNote : COMPANY.seesNote}</p>
        {manages && <Button onClick={() => setOpen({ what: 'new' })}>{COMPANY.addMember}</Button>}
      </div>
      {(page.present > FEW || asked.words) && <MembersSearch words={asked.words} present={page.present} />}
      {page.members.length === 0 && <p className="finding">{COMPANY.noMember}</p>}
      <div className="wide">
        <table className="rows">
          <thead>
            <tr>
              <th>{COMPANY.column.member}</th>
              <th>{COMPANY.column.email}</th>
              <th>{COMPANY.column.role}</th>
              <th>{COMPANY.column.ownRecord}</th>
              <th>
                <span className="visually-hidden">{FRAME.acts}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {page.members.map((member) => (
              <tr key={member.id} className={member.hasLeft ? 'left' : ''}>
                <td>
                  {member.name}
                  {member.id === me && <span className="also">{COMPANY.you}</span>}
                  {member.mustChangePassword && !member.hasLeft && (
                    <span className="also">{COMPANY.firstPasswordMark}</span>
                  )}
                  {member.secondFactor && !member.hasLeft && <span className="also">{COMPANY.factorOn}</span>}
                  <Invited member={member} zone={zone} mayInvite={mayInvite} onDone={() => router.refresh()} />
                </td>
                <td className="mono">{member.email}</td>
                <td>
                  {member.hasLeft ? (
                    <span className="stone">{COMPANY.hasLeft}</span>
                  ) : manages ? (
                    <select
                      className="form-select"
                      aria-label={COMPANY.roleOf(member.name)}
                      title={ROLE_NOTES[member.role]}
                      value={member.role}
                      onChange={(event) => change(member, event.target.value as Role, member.ownRecord)}
                    >
                      {ROLES.map((role) => (
                        <option key={role}>{role}</option>
                      ))}
                    </select>
                  ) : (
                    member.role
                  )}
                  <ProblemNote problem={problem?.id === member.id ? problem.problem : null} />
                </td>
                <td>
                  {manages && !member.hasLeft ? (
                    <OwnRecord member={member} onChange={(ownRecord) => void change(member, member.role, ownRecord)} />
                  ) : (
                    (member.ownRecordName ?? '')
                  )}
                </td>
                <td className="acts-cell">
                  {manages && member.hasLeft && (
                    <button type="button" className="plain" onClick={() => setOpen({ what: 'back', member })}>
                      {COMPANY.bringBack}
                      <span className="visually-hidden"> {member.name}</span>
                    </button>
                  )}
                  {manages && !member.hasLeft && member.id !== me && (
                    <>
                      <button type="button" className="plain" onClick={() => setOpen({ what: 'password', member })}>
                        {COMPANY.newPassword}
                        <span className="visually-hidden">{COMPANY.newPasswordFor(member.name)}</span>
                      </button>
                      {member.secondFactor && (
                        <button type="button" className="plain" onClick={() => resetFactor(member)}>
                          {COMPANY.resetFactor}
                          <span className="visually-hidden">{COMPANY.resetFactorOf(member.name)}</span>
                        </button>
                      )}
                      <button type="button" className="plain" onClick={() => setOpen({ what: 'remove', member })}>
                        {FRAME.remove}
                        <span className="visually-hidden"> {member.name}</span>
                      </button>
                    </>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {(page.next || asked.after) && (
        <nav className="more-members" aria-label={COMPANY.turn.members}>
          {asked.after && <Link href={membersAt(asked.words, null)}>{COMPANY.firstMembers}</Link>}
          {page.next && <Link href={membersAt(asked.words, page.next)}>{COMPANY.moreMembers}</Link>}
        </nav>
      )}
      {manages && (
        <div className="require-factor">
          <Form.Check
            id="require-factor"
            label={COMPANY.requireFactor}
            checked={required}
            onChange={({ target }) => void requireFactor(target.checked)}
          />
          <p className="small">{COMPANY.requireFactorNote}</p>
          <ProblemNote problem={problem?.id === '' ? problem.problem : null} />
        </div>
      )}
      {open?.what === 'new' && <NewMember onClose={() => setOpen(null)} onDone={done} />}
      {open?.what === 'password' && <FirstPassword member={open.member!} onClose={() => setOpen(null)} onDone={done} />}
      {open?.what === 'back' && (
        <FirstPassword back member={open.member!} onClose={() => setOpen(null)} onDone={done} />
      )}
      {open?.what === 'remove' && <RemoveMember member={open.member!} onClose={() => setOpen(null)} onDone={done} />}
    </section>
  );
}
