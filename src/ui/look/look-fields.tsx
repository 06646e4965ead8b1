'use client';
import { useId, type ReactNode } from 'react';
import {
  CORNERS,
  LAYOUT_NAMES,
  layoutOf,
  PHOTO_SHAPES,
  RULES,
  SCALES,
  SIDES,
  type LayoutName,
  type Look,
  type LookPart,
} from '@/core/look';
import { LOOK } from '@/core/words';
import { Choice } from './choice';
import { GroundFields } from './ground-fields';
import { PaletteFields } from './palette-fields';
import { TypeFields } from './type-fields';

type Props = {
  /** The look as it was chosen, and as it shows where something gives way to the house style's colours. */
  look: Look;
  worn?: Look;
  /** The name that the type families are shown with. */
  sample: string;
  logo: string | null;
  /** Whether a part cannot be changed here, and what stands beside its title. */
  kept: (part: LookPart) => boolean;
  beside: (part: LookPart) => ReactNode;
  /** A drawn card in a layout; null where there is none to draw. */
  faceOf: ((layout: LayoutName) => ReactNode) | null;
  allowed: (layout: LayoutName) => boolean;
  onLook: (look: Look, part: LookPart) => void;
};

/** The parts of a look, each with what it measures. */
export function LookFields({ look, worn = look, sample, logo, kept, beside, faceOf, allowed, onLook }: Props) {
  const section = (part: LookPart, inner: (change: (look: Look) => void, disabled: boolean) => ReactNode) => (
    <Section title={LOOK.part[part]} beside={beside(part)}>
      {inner((next) => onLook(next, part), kept(part))}
    </Section>
  );
  return (
    <>
      {section('layout', (change, disabled) => (
        <ul className="layouts">
          {LAYOUT_NAMES.map((name) => (
            <li key={name}>
              <button
                type="button"
                aria-pressed={look.layout === name}
                disabled={disabled || !allowed(name)}
                onClick={() => change({ ...look, layout: name })}
              >
                {faceOf?.(name)}
                <b>{LOOK.layouts[name][0]}</b>
                <small>{allowed(name) ? LOOK.layouts[name][1] : LOOK.notAllowed}</small>
              </button>
            </li>
          ))}
        </ul>
      ))}
      {section('palette', (change, disabled) => (
        <PaletteFields
          look={{ ...look, ground: worn.ground, lines: worn.lines }}
          logo={logo}
          disabled={disabled}
          onLook={change}
        />
      ))}
      {section('type', (change, disabled) => (
        <TypeFields look={look} sample={sample} disabled={disabled} onLook={change} />
      ))}
      {section('shape', (change, disabled) => (
        <>
          <Choice
            of={LOOK.corners}
            among={CORNERS}
            words={LOOK.cornersOf}
            value={look.corners}
            disabled={disabled}
            onChoose={(corners) => change({ ...look, corners })}
          />
          <Choice
            of={LOOK.rules}
            among={RULES}
            words={LOOK.rulesOf}
            value={look.rules}
            disabled={disabled}
            onChoose={(rules) => change({ ...look, rules })}
          />
        </>
      ))}
      {section('ground', (change, disabled) => (
        <>
          <GroundFields look={look} disabled={disabled} onLook={change} />
          {worn.ground.kind !== look.ground.kind && <p className="note">{LOOK.groundGaveWay}</p>}
          {worn.ground.kind === 'picture' && look.ground.kind === 'picture' && worn.ground.veil > look.ground.veil && (
            <p className="note">{LOOK.veilGaveWay(Math.round(worn.ground.veil * 100))}</p>
          )}
        </>
      ))}
      {section('photo', (change, disabled) => (
        <>
          {layoutOf(look.layout).photo === 'fills' ? (
            <p className="note">{LOOK.shapeFills}</p>
          ) : (
            <Choice
              of={LOOK.shape}
              among={PHOTO_SHAPES}
              words={LOOK.shapes}
              value={look.photo.shape}
              disabled={disabled}
              onChoose={(shape) => change({ ...look, photo: { ...look.photo, shape } })}
            />
          )}
          <Choice
            of={LOOK.side}
            among={SIDES}
            words={LOOK.sides}
            value={look.photo.side}
            disabled={disabled}
            onChoose={(side) => change({ ...look, photo: { ...look.photo, side } })}
          />
          <Choice
            of={LOOK.share}
            among={SCALES}
            words={LOOK.scales}
            value={look.photo.share}
            disabled={disabled}
            onChoose={(share) => change({ ...look, photo: { ...look.photo, share } })}
          />
        </>
      ))}
    </>
  );
}

/** A part of the half, with its title. */
export function Section({
  title,
  beside = null,
  children,
}: {
  title: string;
  beside?: ReactNode;
  children: ReactNode;
}) {
  const id = useId();
  return (
    <section className="look-part" aria-labelledby={id}>
      <div className="look-title">
        <h2 className="caps" id={id}>
          {title}
        </h2>
        {beside}
      </div>
      {children}
    </section>
  );
}
