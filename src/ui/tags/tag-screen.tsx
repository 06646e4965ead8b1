'use client';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { TAG_ROOM, type TagRoom } from '@/core/ndef';
import { recordsIn } from '@/core/specimen/tag-held';
import type { ShownTag } from '@/core/shown';
import { CODES, PAPER, TAGS } from '@/core/words';
import { FirstFinding, Measured } from '@/ui/paper/findings';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { bytesOf } from './device';
import { TagHelp } from './tag-help';
import { TagUse } from './tag-use';

const OnBench = dynamic(() => import('./on-bench').then((made) => made.OnBench));

type Props = { opened: ShownTag; bench: boolean; zone: string };

/** A tag: what a tap does, what lies in it and its proof, and the ways of writing it. */
export function TagScreen({ opened, bench, zone }: Props) {
  const [shown, setShown] = useState(opened);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const { content, state, proof, live, cardId } = shown;
  const memory = bytesOf(shown.memory);
  const act = async (method: 'PUT' | 'POST', json: object): Promise<boolean> => {
    setBusy(true);
    const answer = await call<ShownTag>(`/api/hand-outs/${shown.id}/tag`, { method, json });
    setBusy(false);
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) setShown(answer.value);
    return answer.ok;
  };
  const written = (locked: boolean) => act('POST', { act: 'written', locked });
  return (
    <section className="paper-screen tag-screen">
      <div>
        <div className="paper-options">
          <div>
            <p className="caps">{TAGS.does}</p>
            <p>{CODES.does[content.what]}</p>
            <p className="note">{live ? TAGS.live : TAGS.frozen}</p>
          </div>
          <Form.Group as="fieldset">
            <legend className="caps">{TAGS.size}</legend>
            {TAG_ROOM.map((room: TagRoom) => (
              <Form.Check
                key={room}
                type="radio"
                name="room"
                id={`room-${room}`}
                label={`${TAGS.room(room)}: ${TAGS.sizes[room]}`}
                checked={state.room === room}
                disabled={busy || !shown.mayWrite}
                onChange={() => void act('PUT', { room })}
              />
            ))}
            <p className="note">{TAGS.sizeNote}</p>
          </Form.Group>
          <Link href={`/cards/${cardId}`}>{PAPER.ticks}</Link>
          <Link href={`/cards/${cardId}/hand-outs`}>{CODES.back}</Link>
        </div>
      </div>
      <div className="paper-stage">
        <FirstFinding proof={proof} passed={TAGS.passed} leaving={shown.leaving} leavingWord={TAGS.leaving} />
        {memory.length > state.room && shown.leaveOut !== null && shown.leaveOut.length > 0 && (
          <p className="attention">{TAGS.leaveOut(shown.leaveOut)}</p>
        )}
        {memory.length > state.room && shown.leaveOut === null && <p className="attention">{TAGS.fitsNever}</p>}
        {shown.renews && (
          <p className="attention renew">
            {TAGS.renews}{' '}
            {shown.mayWrite && !state.locked && (
              <Button variant="quiet" size="sm" disabled={busy} onClick={() => void act('POST', { act: 'renew' })}>
                {TAGS.renew}
              </Button>
            )}
          </p>
        )}
        <ProblemNote problem={problem} />
        <p className="caps lies">
          {TAGS.carries} · {TAGS.bytes(memory.length, state.room)}
        </p>
        <meter min={0} max={state.room} value={Math.min(memory.length, state.room)} aria-label={TAGS.carries} />
        <dl className="tag-records">
          {recordsIn(memory).map((seen, at) => {
            const [kind, said] = TAGS.record(seen);
            return (
              <div key={at}>
                <dt>
                  {kind} {at === 0 && memory.length > 60 && <small>{TAGS.first}</small>}
                </dt>
                <dd className="mono">{said}</dd>
              </div>
            );
          })}
        </dl>
        <details>
          <summary>{TAGS.bytesTitle}</summary>
          <pre className="tag-bytes" tabIndex={0} aria-label={TAGS.bytesTitle}>
            {hexOf(memory)}
          </pre>
          <a className="btn btn-quiet btn-sm" href={`/api/hand-outs/${shown.id}/tag.ndef`} download>
            {TAGS.download}
          </a>
        </details>
        <Measured proof={proof} />
        <TagHelp />
      </div>
      <div className="paper-use">
        {bench ? (
          <OnBench room={state.room} of={shown.id}>
            {(device) => <TagUse shown={shown} memory={memory} zone={zone} onWritten={written} device={device} />}
          </OnBench>
        ) : (
          <TagUse shown={shown} memory={memory} zone={zone} onWritten={written} device={null} />
        )}
      </div>
    </section>
  );
}

const PER_ROW = 12;
const hexOf = (memory: Uint8Array): string =>
  Array.from({ length: Math.ceil(memory.length / PER_ROW) }, (_, at) =>
    [...memory.slice(at * PER_ROW, (at + 1) * PER_ROW)].map((byte) => byte.toString(16).padStart(2, '0')).join(' '),
  ).join('\n');
