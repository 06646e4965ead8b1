'use client';
import { useState } from 'react';
import type { Problem } from '@/core/errors';
import type { ShownMember } from '@/core/shown';
import { INVITE } from '@/core/words';
import { call } from '@/ui/studio/call';
import { shortDayIn } from '@/ui/studio/instant';
import { ProblemNote } from '@/ui/studio/problem-note';

type Props = { member: ShownMember; zone: string; mayInvite: boolean; onDone: () => void };

/** How far an invitation is that nobody has taken yet, and what can be done with it. */
export function Invited({ member: { id, name, invitation }, zone, mayInvite, onDone }: Props) {
  const [problem, setProblem] = useState<Problem | null>(null);
  if (!invitation) return null;
  const { state, sent, times, reminded } = invitation;
  const day = (at: string) => shortDayIn(zone, at);
  async function act(method: 'POST' | 'DELETE') {
    const answer = await call(`/api/invitations/${id}`, { method });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) onDone();
  }
  const when = reminded
    ? INVITE.state.reminded(day(reminded))
    : times > 1
      ? INVITE.state.again(day(sent), times)
      : INVITE.state.sent(day(sent));
  const words = state === 'waiting' ? when : INVITE.state[state];
  return (
    <span className="invited">
      <span className="also">{words}</span>
      {mayInvite && (
        <>
          <button type="button" className="plain" onClick={() => void act('POST')}>
            {INVITE.sendAgain}
            <span className="visually-hidden">{INVITE.of(name)}</span>
          </button>
          {state !== 'withdrawn' && (
            <button type="button" className="plain" onClick={() => void act('DELETE')}>
              {INVITE.withdraw}
              <span className="visually-hidden">{INVITE.of(name)}</span>
            </button>
          )}
        </>
      )}
      <ProblemNote problem={problem} />
    </span>
  );
}
