'use client';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { COLOURS, PALETTE_NAMES, paletteFrom, PALETTES, type Look, type Palette } from '@/core/look';
import { logoGround } from '@/core/house';
import { LOOK } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import type { Problem } from '@/core/errors';
import { ColourField } from './colour-field';
import { LogoOn } from './logo-on';
import { Pairs } from './pairs';

type Props = {
  look: Look;
  logo: string | null;
  disabled: boolean;
  onLook: (look: Look) => void;
};

const samePalette = (a: Palette, b: Palette) => COLOURS.every((each) => a[each] === b[each]);

/** The colours of a look: ready palettes, one from a brand's colour or its logo, each colour by itself, and what all of it measures. */
export function PaletteFields({ look, logo, disabled, onLook }: Props) {
  const { palette } = look;
  const [brand, setBrand] = useState(palette.band);
  const set = (next: Palette) => onLook({ ...look, palette: next });
  return (
    <>
      <ul className="palettes" aria-label={LOOK.part.palette}>
        {PALETTE_NAMES.map((name) => (
          <li key={name}>
            <button
              type="button"
              disabled={disabled}
              aria-pressed={samePalette(palette, PALETTES[name])}
              onClick={() => set(PALETTES[name])}
            >
              <span className="swatch" aria-hidden="true">
                {(['band', 'act', 'sheet', 'ink'] as const).map((each) => (
                  <i key={each} style={{ background: PALETTES[name][each] }} />
                ))}
              </span>
              {LOOK.palettes[name]}
            </button>
          </li>
        ))}
      </ul>
      <div className="palette-from">
        <ColourField label={LOOK.fromOne} value={brand} onColour={setBrand} disabled={disabled} />
        <Button size="sm" variant="quiet" disabled={disabled} onClick={() => set(paletteFrom(brand))}>
          {LOOK.fromOneTake}
        </Button>
        <FromLogo logo={logo} disabled={disabled} onPalette={set} />
      </div>
      <div className="colours">
        {COLOURS.map((each) => (
          <ColourField
            key={each}
            label={LOOK.colour[each]}
            value={palette[each]}
            disabled={disabled}
            onColour={(hex) => set({ ...palette, [each]: hex })}
          />
        ))}
      </div>
      <Form.Check
        id="look-night"
        label={LOOK.night}
        checked={look.night}
        disabled={disabled}
        onChange={({ target }) => onLook({ ...look, night: target.checked })}
      />
      {logo && <LogoOn logo={{ hash: logo }} ground={logoGround(look)} />}
      <Pairs look={look} onPalette={disabled ? null : set} />
    </>
  );
}

/** Palettes from the colours that the logo really has. */
function FromLogo({
  logo,
  disabled,
  onPalette,
}: {
  logo: string | null;
  disabled: boolean;
  onPalette: (palette: Palette) => void;
}) {
  const [colours, setColours] = useState<string[] | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  async function read() {
    const answer = await call<{ colours: string[] }>(`/api/pictures/${logo}/colours`);
    if (answer.ok) setColours(answer.value.colours);
    else setProblem(answer.problem);
  }
  if (!logo) return <span className="note">{LOOK.fromLogoNone}</span>;
  if (colours === null)
    return (
      <>
        <Button size="sm" variant="quiet" disabled={disabled} onClick={() => void read()}>
          {LOOK.fromLogo}
        </Button>
        <ProblemNote problem={problem} />
      </>
    );
  return (
    <span className="logo-colours">
      {colours.map((hex, at) => (
        <button
          key={hex}
          type="button"
          disabled={disabled}
          aria-label={LOOK.fromLogoTake(hex)}
          title={LOOK.fromLogoTake(hex)}
          style={{ background: hex }}
          onClick={() => onPalette(paletteFrom(hex, colours[at === 0 ? 1 : 0] ?? hex))}
        />
      ))}
    </span>
  );
}
