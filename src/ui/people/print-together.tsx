'use client';
import { useRouter } from 'next/navigation';
import { useState, type FormEvent } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import {
  BACKS,
  FIRST_PIECE,
  FIRST_SHEET,
  isOwnSize,
  PAPER_NAMES,
  planSheet,
  SIZE_NAMES,
  sizeOf,
  STOCKS,
  trimOf,
  type PaperName,
  type Piece,
  type SizeName,
} from '@/core/print';
import { PAPER, TOGETHER } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

/** Cards as print shops want them, or everybody's code with the name beside it, many on a sheet of an office printer. */
const KINDS = ['cards', 'codes'] as const;
type Kind = (typeof KINDS)[number];
const FIRST: Record<Kind, Piece> = {
  cards: FIRST_PIECE,
  codes: { ...FIRST_PIECE, size: 'label-70x37', sheet: FIRST_SHEET },
};

/** Asks how the cards or codes of the chosen people are printed, and follows the work. */
export function PrintTogether({ chosen, onClose }: { chosen: string[]; onClose: () => void }) {
  const router = useRouter();
  const [kind, setKind] = useState<Kind>('cards');
  const [piece, setPiece] = useState<Piece>(FIRST.cards);
  const [placement, setPlacement] = useState('');
  const [copies, setCopies] = useState('0');
  const [problem, setProblem] = useState<Problem | null>(null);
  const { stock } = sizeOf(piece.size);
  const places = piece.sheet ? planSheet(piece.sheet, trimOf(piece)).places.length : null;
  function choose(next: Kind) {
    setKind(next);
    setPiece(FIRST[next]);
    // A name that nobody typed follows the choice.
    setPlacement((typed) => (next === 'codes' ? typed || TOGETHER.codesAt : typed === TOGETHER.codesAt ? '' : typed));
  }
  async function ask(event: FormEvent) {
    event.preventDefault();
    const json = { records: chosen, piece, placement, copies: Number(copies) };
    const answer = await call<{ job: string }>('/api/print-together', { json });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) router.push(`/jobs/${answer.value.job}`);
  }
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="together-title">
      <Form onSubmit={(event) => void ask(event)} noValidate>
        <Modal.Header closeButton>
          <Modal.Title id="together-title">{TOGETHER.title(chosen.length)}</Modal.Title>
        </Modal.Header>
        <Modal.Body className="form-rows">
          <fieldset className="print-what">
            <legend>{TOGETHER.what}</legend>
            {KINDS.map((each) => (
              <Form.Check
                key={each}
                type="radio"
                inline
                id={`together-${each}`}
                name="together-what"
                label={TOGETHER.kinds[each]}
                checked={kind === each}
                onChange={() => choose(each)}
              />
            ))}
            {kind === 'codes' && <p className="note">{TOGETHER.codesNote}</p>}
          </fieldset>
          <Form.Group controlId="together-placement">
            <Form.Label>{PAPER.where}</Form.Label>
            <Form.Control
              value={placement}
              maxLength={LIMITS.placement}
              placeholder={TOGETHER.whereHint}
              autoFocus
              onChange={({ target }) => setPlacement(target.value)}
            />
          </Form.Group>
          <Form.Group controlId="together-size">
            <Form.Label>{PAPER.size}</Form.Label>
            <Form.Select
              value={piece.size}
              onChange={({ target }) => setPiece({ ...piece, size: target.value as SizeName })}
            >
              {STOCKS.filter((each) => (each === 'label') === (kind === 'codes')).map((each) => (
                <optgroup key={each} label={PAPER.stocks[each]}>
                  {SIZE_NAMES.filter((name) => sizeOf(name).stock === each && !isOwnSize(name)).map((name) => (
                    <option key={name} value={name}>
                      {PAPER.sizes[name]} · {PAPER.measures(sizeOf(name).width, sizeOf(name).height)}
                    </option>
                  ))}
                </optgroup>
              ))}
            </Form.Select>
          </Form.Group>
          {stock === 'card' && (
            <Form.Group controlId="together-back">
              <Form.Label>{PAPER.back}</Form.Label>
              <Form.Select
                value={piece.back}
                onChange={({ target }) => setPiece({ ...piece, back: target.value as Piece['back'] })}
              >
                {BACKS.map((each) => (
                  <option key={each} value={each}>
                    {PAPER.backs[each]}
                  </option>
                ))}
              </Form.Select>
            </Form.Group>
          )}
          <Form.Group controlId="together-sheet">
            <Form.Label>{PAPER.sheet}</Form.Label>
            <Form.Select
              value={piece.sheet?.paper ?? 'none'}
              onChange={({ target }) =>
                setPiece({
                  ...piece,
                  sheet: target.value === 'none' ? null : { ...FIRST_SHEET, paper: target.value as PaperName },
                })
              }
            >
              {(['none', ...PAPER_NAMES] as const).map((each) => (
                <option key={each} value={each}>
                  {PAPER.sheets[each]}
                </option>
              ))}
            </Form.Select>
            {places !== null && <p className="note">{PAPER.onSheet(places)}</p>}
          </Form.Group>
          <Form.Group controlId="together-copies">
            <Form.Label>{TOGETHER.copies}</Form.Label>
            <Form.Control
              inputMode="numeric"
              value={copies}
              aria-describedby="together-copies-note"
              onChange={({ target }) => setCopies(target.value)}
            />
            <p className="note" id="together-copies-note">
              {TOGETHER.copiesNote}
            </p>
          </Form.Group>
          <p className="note">{TOGETHER.note}</p>
          <ProblemNote problem={problem} />
        </Modal.Body>
        <Modal.Footer>
          <Button type="submit" disabled={!placement.trim() || !/^\d{1,6}$/.test(copies.trim()) || places === 0}>
            {TOGETHER.ask}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
