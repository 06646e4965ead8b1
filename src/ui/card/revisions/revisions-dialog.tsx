'use client';
import { useEffect, useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import type { Composition, Draft, Line } from '@/core/card';
import { restoredDraft, compareCompositions, type ComparedRow } from '@/core/revisions';
import type { Problem } from '@/core/errors';
import { CHANNEL_WORDS, REVISIONS } from '@/core/words';
import type { PersonRecord } from '@/core/record';
import { call } from '@/ui/studio/call';
import { instantIn } from '@/ui/studio/instant';
import { ProblemNote } from '@/ui/studio/problem-note';

type Listed = { number: number; publishedAt: string; note: string; who: string | null; restorable: boolean };
type Opened = { number: number; composition: Composition; draft: Draft | null; erased: string[] };

type Props = {
  card: string;
  draft: Draft;
  composition: Composition | null;
  record: PersonRecord;
  country: string;
  zone: string;
  /** Whether a line is not this member's to word. */
  closed: (line: Line) => boolean;
  onRestore: (draft: Draft) => void;
  onClose: () => void;
};

/** Which of two is looked at: a revision by its number, or the draft as it stands. */
type Side = number | 'draft';

/** Every revision of a card, any two of them side by side, and the way back to one. */
export function RevisionsDialog({
  card,
  draft,
  composition,
  record,
  country,
  zone,
  closed,
  onRestore,
  onClose,
}: Props) {
  const [list, setList] = useState<Listed[] | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [opened, setOpened] = useState<Map<number, Opened>>(new Map());
  const [sides, setSides] = useState<{ was: Side; is: Side } | null>(null);
  const [onlyChanged, setOnlyChanged] = useState(true);
  const [lost, setLost] = useState<{ number: number; lost: string[] } | null>(null);

  useEffect(() => {
    void call<{ revisions: Listed[] }>(`/api/cards/${card}/revisions`).then((answer) => {
      if (!answer.ok) return setProblem(answer.problem);
      setList(answer.value.revisions);
      const [latest] = answer.value.revisions;
      if (latest) setSides({ was: latest.number, is: 'draft' });
    });
  }, [card]);

  async function open(number: number): Promise<Opened | null> {
    const known = opened.get(number);
    if (known) return known;
    const answer = await call<Opened>(`/api/cards/${card}/revisions/${number}`);
    if (!answer.ok) return (setProblem(answer.problem), null);
    setOpened((map) => new Map(map).set(number, answer.value));
    return answer.value;
  }
  useEffect(() => {
    for (const side of sides ? [sides.was, sides.is] : [])
      // eslint-disable-next-line react-hooks/set-state-in-effect -- what is looked at is asked for once
      if (side !== 'draft' && !opened.has(side)) void open(side);
  });

  async function restore(number: number) {
    const revision = await open(number);
    if (!revision?.draft) return setProblem({ code: 'REVISION_TOO_OLD' });
    const back = restoredDraft({ ...revision, draft: revision.draft }, { draft, record, country, closed });
    onRestore(back.draft);
    setLost({ number, lost: back.lost });
    setSides({ was: number, is: 'draft' });
  }

  const of = (side: Side): Composition | null =>
    side === 'draft' ? composition : (opened.get(side)?.composition ?? null);
  const [was, is] = sides ? [of(sides.was), of(sides.is)] : [null, null];
  const rows = was && is ? compareCompositions(was, is) : [];
  return (
    <Modal show size="xl" onHide={onClose} animation={false} aria-labelledby="revisions-title" scrollable>
      <Modal.Header closeButton>
        <Modal.Title id="revisions-title">{REVISIONS.title}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="revisions">
        <ProblemNote problem={problem} />
        {lost && (
          <p role="status" className="finding">
            {REVISIONS.restored(lost.number)} {lost.lost.length > 0 && REVISIONS.lost(lost.lost)}
          </p>
        )}
        {list?.length === 0 && <p>{REVISIONS.none}</p>}
        {list && list.length > 0 && sides && (
          <div className="revisions-two">
            <ol reversed className="revision-list">
              <li>
                <b>{REVISIONS.draft}</b>
              </li>
              {list.map((each) => (
                <li key={each.number}>
                  <b>{REVISIONS.numbered(each.number)}</b>
                  <span>{REVISIONS.publishedBy(instantIn(zone, each.publishedAt), each.who)}</span>
                  {each.note && <span className="revision-note">{each.note}</span>}
                  <Button
                    variant="quiet"
                    size="sm"
                    disabled={!each.restorable}
                    title={each.restorable ? REVISIONS.restoreNote : REVISIONS.tooOld}
                    onClick={() => void restore(each.number)}
                  >
                    {REVISIONS.restore}
                  </Button>
                </li>
              ))}
            </ol>
            <section aria-label={REVISIONS.comparison}>
              <div className="sides">
                {(['was', 'is'] as const).map((side) => (
                  <label key={side}>
                    {REVISIONS.side[side]}{' '}
                    <select
                      className="form-select form-select-sm"
                      value={sides[side]}
                      onChange={({ target }) => setSides({ ...sides, [side]: sideOf(target.value) })}
                    >
                      {(['draft', ...list.map(({ number }) => number)] satisfies Side[]).map((each) => (
                        <option key={each} value={each}>
                          {nameOf(each)}
                        </option>
                      ))}
                    </select>
                  </label>
                ))}
              </div>
              <label className="gap-choice">
                <input
                  type="checkbox"
                  checked={onlyChanged}
                  onChange={({ target }) => setOnlyChanged(target.checked)}
                />{' '}
                {REVISIONS.onlyChanged}
              </label>
              <Comparison
                rows={onlyChanged ? rows.filter(({ same }) => !same) : rows}
                was={nameOf(sides.was)}
                is={nameOf(sides.is)}
                busy={!was || !is}
              />
            </section>
          </div>
        )}
      </Modal.Body>
    </Modal>
  );
}

const sideOf = (value: string): Side => (value === 'draft' ? value : Number(value));
const nameOf = (side: Side): string => (side === 'draft' ? REVISIONS.draft : REVISIONS.numbered(side));

function Comparison({ rows, was, is, busy }: { rows: ComparedRow[]; was: string; is: string; busy: boolean }) {
  if (busy) return <p>{REVISIONS.opening}</p>;
  if (rows.length === 0) return <p>{REVISIONS.same}</p>;
  const cell = (said: ComparedRow['was']) => (
    <td>
      {said ? (
        <>
          {said.text}
          {said.on.length > 0 && <small>{said.on.map((channel) => CHANNEL_WORDS[channel]).join(', ')}</small>}
        </>
      ) : (
        <i>{REVISIONS.nothing}</i>
      )}
    </td>
  );
  return (
    <table className="comparison">
      <thead>
        <tr>
          <th scope="col">{REVISIONS.line}</th>
          <th scope="col">{was}</th>
          <th scope="col">{is}</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((each) => (
          <tr key={each.key} className={each.same ? '' : 'differs'}>
            <th scope="row">
              {each.title}
              {!each.same && <span className="visually-hidden"> {REVISIONS.differs}</span>}
            </th>
            {cell(each.was)}
            {cell(each.is)}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
