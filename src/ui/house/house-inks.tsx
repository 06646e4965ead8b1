'use client';
import { Form } from 'react-bootstrap';
import { inkOf, MOST_INKS, nearestInks, SPOT_NAME, type Ink } from '@/core/look';
import { HOUSE } from '@/core/words';

type Props = { inks: Ink[]; colours: string[]; onInks: (inks: Ink[]) => void };

const PLATES = [0, 1, 2, 3] as const;
const percentOf = (typed: string): number => Math.min(100, Math.max(0, Math.round(Number(typed) || 0)));

/** What the house's colours are printed with: four inks in per cent and, where a brand has it, a spot colour by its name. */
export function HouseInks({ inks, colours, onInks }: Props) {
  const set = (colour: string, ink: Ink | null) =>
    onInks([...inks.filter((each) => each.colour !== colour), ...(ink ? [ink] : [])]);
  // An ink whose colour is no longer the house's is still there to be taken away.
  const shown = [...new Set([...colours.map((each) => each.toUpperCase()), ...inks.map(({ colour }) => colour)])];
  return (
    <div className="house-inks">
      <p className="note">{HOUSE.inksNote}</p>
      {inks.length > 0 && (
        <div className="ink-row ink-names" aria-hidden="true">
          <span />
          <span />
          {HOUSE.plateShort.map((plate) => (
            <span key={plate}>{plate}</span>
          ))}
          <span>{HOUSE.spot}</span>
        </div>
      )}
      {shown.map((colour) => {
        const ink = inkOf(inks, colour);
        const name = colour.toLowerCase();
        return (
          <div key={colour} className="ink-row" role="group" aria-label={HOUSE.inkOf(colour)}>
            <span className="swatch" style={{ background: colour }} />
            <span className="mono">{colour}</span>
            {ink ? (
              <>
                {PLATES.map((plate) => (
                  <Form.Control
                    key={plate}
                    size="sm"
                    className="mono"
                    inputMode="numeric"
                    maxLength={3}
                    aria-label={HOUSE.plates[plate]}
                    value={ink.cmyk[plate]}
                    onChange={({ target }) => {
                      const cmyk = [...ink.cmyk] as Ink['cmyk'];
                      cmyk[plate] = percentOf(target.value);
                      set(colour, { ...ink, cmyk });
                    }}
                  />
                ))}
                <Form.Control
                  size="sm"
                  aria-label={HOUSE.spotOf(name)}
                  value={ink.spot}
                  maxLength={60}
                  onChange={({ target }) => SPOT_NAME.test(target.value) && set(colour, { ...ink, spot: target.value })}
                />
                <button type="button" className="plain" onClick={() => set(colour, null)}>
                  {HOUSE.noInk}
                </button>
              </>
            ) : (
              <button
                type="button"
                className="plain ink-give"
                disabled={inks.length >= MOST_INKS}
                onClick={() => set(colour, { colour, cmyk: nearestInks(colour), spot: '' })}
              >
                {HOUSE.giveInk}
              </button>
            )}
          </div>
        );
      })}
    </div>
  );
}
