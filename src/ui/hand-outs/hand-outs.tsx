'use client';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import type { Composition } from '@/core/card';
import type { Problem } from '@/core/errors';
import type { MailAllowed, ShownHandOut } from '@/core/shown';
import { CODES, FRAME, HAND_OUTS, MESSAGE, PAPER, PROFILE, SPARES, TAGS } from '@/core/words';
import { shownLink, type PersonRecord } from '@/core/record';
import type { Figures } from '@/core/response';
import { call } from '@/ui/studio/call';
import { shortDayIn } from '@/ui/studio/instant';
import { ProblemNote } from '@/ui/studio/problem-note';

const ChangeDialog = dynamic(() => import('./change-dialog').then((made) => made.ChangeDialog));
const MessageDialog = dynamic(() => import('./sharing/message-dialog').then((made) => made.MessageDialog));
const UseSpare = dynamic(() => import('./sharing/use-spare').then((made) => made.UseSpare));
const NewProfile = dynamic(() => import('./sharing/new-profile').then((made) => made.NewProfile));
const NewPiece = dynamic(() => import('@/ui/paper/new-piece').then((made) => made.NewPiece));
const NewCode = dynamic(() => import('./new-code').then((made) => made.NewCode));
const TestDesign = dynamic(() => import('./test-design').then((made) => made.TestDesign));

/** Hand-outs with a screen of their own. */
const HAS_SCREEN = new Set<ShownHandOut['channel']>([
  'code',
  'tag',
  'signature',
  'profile',
  'print',
  'backdrop',
  'pass',
]);

/** What needs no word beside its kind: what opens the card, and a frozen tag, which carries the contact. */
const PLAIN = new Set(['code card', 'tag card', 'tag contact', 'print card', 'backdrop card', 'pass card']);

type Props = {
  cardId: string;
  published: boolean;
  handOuts: ShownHandOut[];
  figures: ({ handOut: string | null } & Figures)[];
  /** The day of the last use by hand-out, of the short address under an empty name. */
  lastUses: Record<string, string>;
  publicUrl: string;
  address: string | null;
  composition: Composition | null;
  record: PersonRecord;
  /** Whether this member may write to others from here. */
  mail: MailAllowed;
};

/** Every hand-out of a card with its placement, proof and counts; new codes and tags. */
export function HandOuts({
  cardId,
  published,
  handOuts,
  figures,
  lastUses,
  publicUrl,
  address,
  composition,
  record,
  mail,
}: Props) {
  const [adding, setAdding] = useState<'code' | 'tag' | null>(null);
  const [sending, setSending] = useState(false);
  const [spare, setSpare] = useState(false);
  const [paper, setPaper] = useState(false);
  const [profiling, setProfiling] = useState(false);
  const of = (handOut: string | null) => figures.find((row) => row.handOut === handOut);
  if (!published || !composition) {
    return (
      <section className="first">
        <h2>{HAND_OUTS.noneTitle}</h2>
        <p className="finding">{HAND_OUTS.noneText}</p>
      </section>
    );
  }
  return (
    <section className="hand-outs">
      <div className="acts-row">
        <Button variant="quiet" onClick={() => setSending(true)}>
          {MESSAGE.open}
        </Button>
        <Button variant="quiet" onClick={() => setSpare(true)}>
          {SPARES.use}
        </Button>
        <NewSignature cardId={cardId} />
        <Button variant="quiet" onClick={() => setProfiling(true)}>
          {PROFILE.new}
        </Button>
        <Button variant="quiet" onClick={() => setPaper(true)}>
          {PAPER.new}
        </Button>
        <Button variant="quiet" onClick={() => setAdding('tag')}>
          {TAGS.new}
        </Button>
        <Button onClick={() => setAdding('code')}>{HAND_OUTS.newCode}</Button>
      </div>
      <div className="wide">
        <table className="rows">
          <thead>
            <tr>
              <th>{HAND_OUTS.column.placement}</th>
              <th className="leads-to">{HAND_OUTS.column.leadsTo}</th>
              <th>{HAND_OUTS.column.kind}</th>
              <th>{HAND_OUTS.proof}</th>
              <th className="num">{HAND_OUTS.column.views}</th>
              <th className="num">{HAND_OUTS.column.saves}</th>
              <th className="day">{HAND_OUTS.column.last}</th>
              <th>
                <span className="visually-hidden">{FRAME.acts}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            <tr>
              <td>{HAND_OUTS.shortAddress}</td>
              <td className="mono leads-to">
                {shownLink(publicUrl)}/c/{address}
              </td>
              <td>{HAND_OUTS.liveLink}</td>
              <td />
              <td className="num">{of(null)?.views ?? 0}</td>
              <td className="num">{of(null)?.saves ?? 0}</td>
              <td className="day">{dayOfUse(lastUses[''])}</td>
              <td />
            </tr>
            {handOuts.map((handOut) => (
              <Row
                key={handOut.id}
                cardId={cardId}
                handOut={handOut}
                publicUrl={publicUrl}
                figures={of(handOut.id)}
                last={lastUses[handOut.id]}
              />
            ))}
          </tbody>
        </table>
      </div>
      <TestDesign />
      {sending && (
        <MessageDialog
          cardId={cardId}
          composition={composition}
          record={record}
          mail={mail}
          onClose={() => setSending(false)}
        />
      )}
      {spare && <UseSpare cardId={cardId} onClose={() => setSpare(false)} />}
      {paper && <NewPiece cardId={cardId} onClose={() => setPaper(false)} />}
      {profiling && <NewProfile cardId={cardId} onClose={() => setProfiling(false)} />}
      {adding && (
        <NewCode
          channel={adding}
          cardId={cardId}
          composition={composition}
          record={record}
          link={`${publicUrl}/h/00000000`}
          onClose={() => setAdding(null)}
        />
      )}
    </section>
  );
}

const dayOfUse = (day: string | undefined) =>
  day ? <time dateTime={day}>{shortDayIn('UTC', day)}</time> : <span className="note">{HAND_OUTS.unused}</span>;

function Row({
  cardId,
  handOut,
  publicUrl,
  figures,
  last,
}: {
  cardId: string;
  handOut: ShownHandOut;
  publicUrl: string;
  figures: Figures | undefined;
  last: string | undefined;
}) {
  const router = useRouter();
  const [changing, setChanging] = useState(false);
  const { proof } = handOut;
  // What is frozen without a link is seen by nobody but who holds it.
  const count = (counted: number | undefined) => counted ?? (handOut.frozen ? '–' : 0);
  const kind = HAND_OUTS.kinds[`${handOut.frozen ? 'frozen' : 'live'} ${handOut.channel}`];
  return (
    <tr>
      <td>
        {HAS_SCREEN.has(handOut.channel) ? (
          <Link href={`/cards/${cardId}/hand-outs/${handOut.id}`}>{handOut.placement}</Link>
        ) : (
          handOut.placement
        )}
        {handOut.occasion && <span className="note"> · {handOut.occasion.name}</span>}
        {handOut.state !== 'out' && <span className="attention"> {HAND_OUTS.stateWord[handOut.state]}</span>}
      </td>
      <td className="mono leads-to">
        {shownLink(publicUrl)}/h/{handOut.code}
      </td>
      <td>
        {kind}
        {handOut.what && !PLAIN.has(`${handOut.channel} ${handOut.what}`) && (
          <span className="note"> · {CODES.does[handOut.what]}</span>
        )}
        {handOut.revision !== null && <span className="note"> · {HAND_OUTS.revision(handOut.revision)}</span>}
      </td>
      <td>
        {proof && (
          <span className={proof.passed ? 'passed' : 'failed'}>
            <span aria-hidden="true">{proof.passed ? '✓' : '✕'}</span> {HAND_OUTS.proven(proof.read, proof.of)}
          </span>
        )}
        {!proof && handOut.channel === 'code' && <span className="note">{HAND_OUTS.notProven}</span>}
      </td>
      <td className="num">{count(figures?.views)}</td>
      <td className="num">{count(figures?.saves)}</td>
      <td className="day">{dayOfUse(last)}</td>
      <td className="acts-cell">
        {HAS_SCREEN.has(handOut.channel) && (
          <Link className="btn btn-quiet btn-sm" href={`/cards/${cardId}/hand-outs/${handOut.id}`}>
            {HAND_OUTS.show[handOut.channel as keyof typeof HAND_OUTS.show]}
          </Link>
        )}{' '}
        <button
          type="button"
          className="btn btn-quiet btn-sm"
          aria-label={HAND_OUTS.changeOf(handOut.placement)}
          onClick={() => setChanging(true)}
        >
          {HAND_OUTS.change}
        </button>
        {changing && (
          <ChangeDialog
            handOut={handOut}
            cardId={cardId}
            publicUrl={publicUrl}
            onClose={(changed) => {
              setChanging(false);
              if (changed) router.refresh();
            }}
          />
        )}
      </td>
    </tr>
  );
}

/** Opens the signature of a card, which is made where there is none yet. */
function NewSignature({ cardId }: { cardId: string }) {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(null);
  async function open() {
    const answer = await call<{ id: string }>('/api/hand-outs', {
      json: { cardId, placement: HAND_OUTS.signature, channel: 'signature' },
    });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) router.push(`/cards/${cardId}/hand-outs/${answer.value.id}`);
  }
  return (
    <>
      <ProblemNote problem={problem} />
      <Button variant="quiet" onClick={() => void open()}>
        {HAND_OUTS.signature}
      </Button>
    </>
  );
}
