'use client';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import type { Picture } from '@/core/record';
import type { Problem } from '@/core/errors';
import { GROUNDS, leastVeil, mix, MOTIFS, type Ground, type Look } from '@/core/look';
import { LOOK } from '@/core/words';
import { PictureInput } from '@/ui/card/blocks/file-input';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { Choice } from './choice';
import { ColourField } from './colour-field';

/** What the band of a look shows; over a picture, as much of the band's colour as the name needs to read. */
export function GroundFields({
  look,
  disabled,
  onLook,
}: {
  look: Look;
  disabled: boolean;
  onLook: (look: Look) => void;
}) {
  const { ground, palette } = look;
  const [wanted, setWanted] = useState<Ground['kind']>(ground.kind);
  const [problem, setProblem] = useState<Problem | null>(null);
  const set = (next: Ground) => onLook({ ...look, ground: next });
  const near = mix(palette.band, palette.onBand, 0.12);
  const choose = (kind: Ground['kind']) => {
    setWanted(kind);
    if (kind === 'plain') set({ kind });
    if (kind === 'gradient') set({ kind, to: near, angle: 160 });
    if (kind === 'pattern') set({ kind, motif: 'furrows', to: near });
  };
  async function give(picture: Picture | null) {
    if (!picture) return choose('plain');
    const answer = await call<{ darkest: string; lightest: string }>(`/api/pictures/${picture.hash}/colours`);
    if (!answer.ok) return setProblem(answer.problem);
    setProblem(null);
    const { darkest, lightest } = answer.value;
    set({ kind: 'picture', picture, darkest, lightest, veil: leastVeil(palette, { darkest, lightest }) });
  }
  const least = ground.kind === 'picture' ? leastVeil(palette, ground) : 0;
  return (
    <>
      <Choice
        of={LOOK.part.ground}
        among={GROUNDS}
        words={LOOK.grounds}
        value={ground.kind === 'plain' ? wanted : ground.kind}
        disabled={disabled}
        onChoose={choose}
      />
      {ground.kind === 'gradient' && (
        <div className="row-fields">
          <ColourField
            label={LOOK.groundTo}
            value={ground.to}
            disabled={disabled}
            onColour={(to) => set({ ...ground, to })}
          />
          <Form.Label htmlFor="ground-angle">{LOOK.angle}</Form.Label>
          <Form.Range
            id="ground-angle"
            min={0}
            max={345}
            step={15}
            value={ground.angle}
            disabled={disabled}
            onChange={({ target }) => set({ ...ground, angle: Number(target.value) })}
          />
          <span className="num">{ground.angle}°</span>
        </div>
      )}
      {ground.kind === 'pattern' && (
        <div className="row-fields">
          <Choice
            of={LOOK.motif}
            among={MOTIFS}
            words={LOOK.motifs}
            value={ground.motif}
            disabled={disabled}
            onChoose={(motif) => set({ ...ground, motif })}
          />
          <ColourField
            label={LOOK.groundInk}
            value={ground.to}
            disabled={disabled}
            onColour={(to) => set({ ...ground, to })}
          />
        </div>
      )}
      {(wanted === 'picture' || ground.kind === 'picture') && !disabled && (
        <PictureInput
          picture={ground.kind === 'picture' ? ground.picture : null}
          onPicture={(each) => void give(each)}
        />
      )}
      {ground.kind === 'picture' && (
        <div className="row-fields">
          <Form.Label htmlFor="ground-veil">{LOOK.veil}</Form.Label>
          <Form.Range
            id="ground-veil"
            min={0}
            max={100}
            step={5}
            value={Math.round(ground.veil * 100)}
            disabled={disabled}
            onChange={({ target }) => set({ ...ground, veil: Number(target.value) / 100 })}
          />
          <span className="num">{Math.round(ground.veil * 100)} %</span>
          <p className="note">{least < 1 ? LOOK.veilLeast(Math.round(least * 100)) : LOOK.veilNone}</p>
        </div>
      )}
      <ProblemNote problem={problem} />
    </>
  );
}
