'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { ACCOUNT, ENTRY } from '@/core/words';
import { call } from '@/ui/studio/call';
import { instantIn } from '@/ui/studio/instant';
import { ProblemNote } from '@/ui/studio/problem-note';
import { EndAccount, OrganisationDeleted } from '@/ui/deletion/end-account';
import { OwnAddress, type OwnEmail } from './own-address';
import { SecondFactor } from './second-factor';

type Session = { id: string; device: string; begun: string; seen: string; isThis: boolean };
type Factor = { on: boolean; recoveryCodes: number; required: boolean };
type Props = {
  name: string;
  own: OwnEmail;
  organisation: string;
  isOwner: boolean;
  alone: boolean;
  /** The day on which the deleted organisation is erased; null of one that is not deleted. */
  erased: string | null;
  sessions: Session[];
  factor: Factor;
  must: boolean;
  timeZone: string;
};

/** A member's own sign-in: password, second factor, sessions. `must` while the organisation wants a second factor that is not there. */
export function Account({ name, own, organisation, isOwner, alone, erased, sessions, factor, must, timeZone }: Props) {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(null);
  async function end(path: string) {
    const answer = await call(path, { method: 'DELETE' });
    setProblem(answer.ok ? null : answer.problem);
    router.refresh();
  }
  return (
    <main className="entry account">
      <p className="word">{ENTRY.product}</p>
      {erased && <OrganisationDeleted name={organisation} erased={erased} isOwner={isOwner} />}
      <h1>{must ? ACCOUNT.mustTitle : ACCOUNT.of(name)}</h1>
      {must && <p className="finding">{ACCOUNT.mustText}</p>}
      <section aria-labelledby="second-factor">
        <h2 id="second-factor">{ACCOUNT.secondFactor}</h2>
        <SecondFactor factor={factor} />
      </section>
      {!must && (
        <section aria-labelledby="address">
          <h2 id="address">{ACCOUNT.address}</h2>
          <OwnAddress {...own} />
        </section>
      )}
      <section aria-labelledby="password">
        <h2 id="password">{ENTRY.password}</h2>
        <p>
          <Link href="/password">{ENTRY.changePassword}</Link> <span className="small">{ACCOUNT.passwordNote}</span>
        </p>
      </section>
      <section aria-labelledby="sessions">
        <h2 id="sessions">{ACCOUNT.sessions}</h2>
        <p className="small">{ACCOUNT.sessionsNote(timeZone)}</p>
        <ul className="sessions">
          {sessions.map(({ id, device, begun, seen, isThis }) => (
            <li key={id}>
              <span>
                <strong>{ACCOUNT.device[device] ?? ACCOUNT.device.computer}</strong>
                {isThis && <span className="also">{ACCOUNT.thisOne}</span>}
                <span className="small">
                  {ACCOUNT.begun} <time dateTime={begun}>{instantIn(timeZone, begun)}</time>, {ACCOUNT.seen}{' '}
                  <time dateTime={seen}>{instantIn(timeZone, seen)}</time>
                </span>
              </span>
              {!isThis && (
                <button type="button" className="plain" onClick={() => end(`/api/sessions/${id}`)}>
                  {ACCOUNT.endOne}
                  <span className="visually-hidden">
                    {' '}
                    {ACCOUNT.begun} {instantIn(timeZone, begun)}
                  </span>
                </button>
              )}
            </li>
          ))}
        </ul>
        <ProblemNote problem={problem} />
        {sessions.length > 1 && (
          <Button variant="quiet" onClick={() => end('/api/sessions')}>
            {ACCOUNT.endOthers}
          </Button>
        )}
      </section>
      {!must && !erased && <EndAccount organisation={organisation} isOwner={isOwner} alone={alone} />}
      {!must && !erased && (
        <p className="aside">
          <Link href="/">{ENTRY.back}</Link>
        </p>
      )}
    </main>
  );
}
