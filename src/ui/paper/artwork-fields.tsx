'use client';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { LEAST_BLEED_MM, lyingOn, SIDES, trimOf, type Piece, type SideName } from '@/core/print';
import type { ShownArtwork, ShownPiece } from '@/core/shown';
import { ARTWORK } from '@/core/words';
import { FileInput } from '@/ui/card/blocks/file-input';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

type Props = { shown: ShownPiece; piece: Piece; onPiece: (piece: Piece) => void; onTaken: (shown: ShownPiece) => void };

const ACCEPTED = 'application/pdf,image/png,image/jpeg,.pdf,.png,.jpg,.jpeg';

/** What a piece is printed on: the look of the card, or somebody's own finished design. */
export function ArtworkFields({ shown, piece, onPiece, onTaken }: Props) {
  const { artworks, id } = shown;
  const [own, setOwn] = useState(piece.ground === 'artwork');
  const [problem, setProblem] = useState<Problem | null>(null);
  const path = (side: SideName) => `/api/hand-outs/${id}/artwork?side=${side}`;
  function choose(ground: Piece['ground']) {
    setOwn(ground === 'artwork');
    if (ground === 'look' || artworks) onPiece({ ...piece, ground });
  }
  async function drop(side: SideName) {
    const answer = await call<ShownPiece>(path(side), { method: 'DELETE' });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) onTaken(answer.value);
  }
  const given = (side: SideName): ShownArtwork | null => artworks?.[side] ?? null;
  const bare = SIDES.some((side) => {
    const one = given(side)?.artwork;
    return one && lyingOn(one, trimOf(piece), false).bleedMm < LEAST_BLEED_MM;
  });
  return (
    <fieldset className="artwork-fields">
      <legend className="form-label">{ARTWORK.ground}</legend>
      {(['look', 'artwork'] as const).map((ground) => (
        <Form.Check
          key={ground}
          type="radio"
          name="paper-ground"
          id={`ground-${ground}`}
          label={ARTWORK.grounds[ground]}
          checked={own === (ground === 'artwork')}
          onChange={() => choose(ground)}
        />
      ))}
      {own && (
        <>
          {SIDES.filter((side) => side === 'front' || artworks).map((side) => {
            const one = given(side);
            return (
              <div key={side} className="given-side">
                {one && (
                  <p className="small">
                    {ARTWORK.told(one.name, one.bytes)}
                    <span className="note">{ARTWORK.measures(one.artwork)}</span>
                  </p>
                )}
                <FileInput<ShownPiece>
                  word={one ? ARTWORK.other[side] : ARTWORK.give[side]}
                  accept={ACCEPTED}
                  path={(name) => `${path(side)}&name=${encodeURIComponent(name)}`}
                  limitBytes={LIMITS.artworkBytes}
                  onGiven={onTaken}
                />
                {one && (
                  <Button variant="quiet" size="sm" onClick={() => void drop(side)}>
                    {ARTWORK.drop[side]}
                  </Button>
                )}
              </div>
            );
          })}
          <p className="note">{ARTWORK.note}</p>
          {artworks && (bare || piece.enlarged) && (
            <Form.Check
              id="paper-enlarged"
              label={ARTWORK.enlarge}
              checked={piece.enlarged}
              onChange={({ target }) => onPiece({ ...piece, enlarged: target.checked })}
            />
          )}
          <ProblemNote problem={problem} />
        </>
      )}
    </fieldset>
  );
}
