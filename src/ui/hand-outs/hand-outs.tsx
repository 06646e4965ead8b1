'use client';
import { useRouter } from 'next/navigation';
import { useState, type FormEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { FRAME, HAND_OUTS } from '@/core/words';
import { shownLink } from '@/core/record';
import type { Figures } from '@/core/response';
import { call } from '@/ui/studio/call';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';
import { CodeDialog } from './code-dialog';

type HandOut = { id: string; code: string; placement: string; channel: 'code' | 'tag'; frozen: boolean };
const KINDS = ['live code', 'frozen code', 'live tag', 'frozen tag'] as const;
type Props = {
  cardId: string;
  published: boolean;
  handOuts: HandOut[];
  figures: ({ handOut: string | null } & Figures)[];
  publicUrl: string;
  address: string | null;
};

/** Every hand-out of a card with its placement and counts, and a form that makes the next. */
export function HandOuts({ cardId, published, handOuts, figures, publicUrl, address }: Props) {
  const router = useRouter();
  const [placement, setPlacement] = useState('');
  const [kind, setKind] = useState<(typeof KINDS)[number]>('live code');
  const [life, channel] = kind.split(' ') as ['live' | 'frozen', 'code' | 'tag'];
  const frozen = life === 'frozen';
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const [shown, setShown] = useState<HandOut | null>(null);
  const of = (handOut: string | null) => figures.find((row) => row.handOut === handOut);

  async function make(event: FormEvent) {
    event.preventDefault();
    setBusy(true);
    const answer = await call<{ id: string; code: string }>('/api/hand-outs', {
      json: { cardId, placement, channel, frozen },
    });
    setBusy(false);
    if (!answer.ok) return setProblem(answer.problem);
    setProblem(null);
    setPlacement('');
    if (channel === 'code') setShown({ ...answer.value, placement, channel, frozen });
    router.refresh();
  }

  if (!published) {
    return (
      <section className="first">
        <h2>{HAND_OUTS.noneTitle}</h2>
        <p className="finding">{HAND_OUTS.noneText}</p>
      </section>
    );
  }
  return (
    <section className="hand-outs">
      <div className="wide">
        <table className="rows">
          <thead>
            <tr>
              <th>{HAND_OUTS.column.placement}</th>
              <th>{HAND_OUTS.column.leadsTo}</th>
              <th>{HAND_OUTS.column.kind}</th>
              <th className="num">{HAND_OUTS.column.views}</th>
              <th className="num">{HAND_OUTS.column.saves}</th>
              <th>
                <span className="visually-hidden">{FRAME.acts}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            <tr>
              <td>{HAND_OUTS.shortAddress}</td>
              <td className="mono">
                {shownLink(publicUrl)}/c/{address}
              </td>
              <td>{HAND_OUTS.liveLink}</td>
              <td className="num">{of(null)?.views ?? 0}</td>
              <td className="num">{of(null)?.saves ?? 0}</td>
              <td />
            </tr>
            {handOuts.map((handOut) => (
              <tr key={handOut.id}>
                <td>{handOut.placement}</td>
                <td className="mono">
                  {shownLink(publicUrl)}/h/{handOut.code}
                </td>
                <td>{HAND_OUTS.kinds[`${handOut.frozen ? 'frozen' : 'live'} ${handOut.channel}`]}</td>
                <td className="num">{of(handOut.id)?.views ?? 0}</td>
                <td className="num">{of(handOut.id)?.saves ?? 0}</td>
                <td className="acts-cell">
                  {handOut.channel === 'code' ? (
                    <Button variant="quiet" size="sm" onClick={() => setShown(handOut)}>
                      {HAND_OUTS.showCode}
                    </Button>
                  ) : (
                    <a className="btn btn-quiet btn-sm" href={`/api/hand-outs/${handOut.id}/tag.ndef`} download>
                      {HAND_OUTS.tagBytes}
                    </a>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <Form onSubmit={make} className="inline" noValidate>
        <Form.Group controlId="placement">
          <Form.Label>{HAND_OUTS.further}</Form.Label>
          <div className="pair">
            <Form.Control
              value={placement}
              onChange={(event) => setPlacement(event.target.value)}
              placeholder={HAND_OUTS.placementHint}
              maxLength={80}
              {...invalid('hand-out-problem', problem !== null)}
            />
            <Form.Select
              aria-label={HAND_OUTS.column.kind}
              value={kind}
              onChange={(event) => setKind(event.target.value as (typeof KINDS)[number])}
            >
              {KINDS.map((each) => (
                <option key={each} value={each}>
                  {HAND_OUTS.kinds[each]}
                </option>
              ))}
            </Form.Select>
            <Button type="submit" disabled={busy || !placement.trim()}>
              {HAND_OUTS.make}
            </Button>
          </div>
        </Form.Group>
        {frozen && <p className="attention">{HAND_OUTS.frozenNote}</p>}
        <ProblemNote problem={problem} id="hand-out-problem" />
      </Form>
      {shown && <CodeDialog handOut={shown} onClose={() => setShown(null)} />}
    </section>
  );
}
