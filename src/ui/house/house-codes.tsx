'use client';
import { useEffect, useMemo, useState } from 'react';
import { Form } from 'react-bootstrap';
import { contrast } from '@/core/look';
import { codeReads, houseCodeStyle, type HouseCodes as Codes } from '@/core/house';
import { readByBoth } from '@/core/proof/scan/shape';
import { distanceMm, FINDER_SHAPES, MODULE_SHAPES, STYLE_BOUNDS, type Mark } from '@/core/qr';
import type { Picture } from '@/core/record';
import { CODES, HOUSE } from '@/core/words';
import { useDrawnCode } from '@/ui/hand-outs/code-picture';
import { markOf } from '@/ui/hand-outs/style-fields';
import { Choice, Slider } from '@/ui/hand-outs/style-inputs';
import { useCodeProof } from '@/ui/hand-outs/use-code-proof';
import { ColourField } from '@/ui/look/colour-field';

/** Printed width of the code that is shown, in millimetres: a business card's usual code. */
const WIDTH_MM = 25;
const LOGO_PERCENT = 8;

type Props = {
  codes: Codes;
  /** The house's logo for light grounds. */
  logo: Picture | null;
  /** The text of a code as this organisation's are, which is drawn and tried here. */
  sample: string;
  onCodes: (codes: Codes) => void;
};

/** How the organisation's codes look, with a code drawn so and tried on the spot. */
export default function HouseCodes({ codes, logo, sample, onCodes }: Props) {
  const [mark, setMark] = useState<{ of: string; mark: Mark | null } | null>(null);
  const hash = codes.logo && logo ? logo.hash : null;
  useEffect(() => {
    if (!hash || mark?.of === hash) return;
    let current = true;
    void markOf(hash, LOGO_PERCENT).then((made) => current && setMark({ of: hash, mark: made }));
    return () => {
      current = false;
    };
  }, [hash, mark?.of]);
  const style = useMemo(() => {
    const inMiddle =
      hash && mark?.of === hash && mark.mark ? { ...mark.mark, percent: codes.logo ?? LOGO_PERCENT } : null;
    return { ...houseCodeStyle(codes), mark: inMiddle };
  }, [codes, hash, mark]);
  const drawn = useDrawnCode(sample, style, null);
  const { report, busy } = useCodeProof({ text: sample, style });
  const set = (change: Partial<Codes>) => onCodes({ ...codes, ...change });
  const reads = codeReads(codes.ink, codes.ground);
  const ratio = contrast(codes.ink, codes.ground).toFixed(1);
  const modules = codes.modules ?? 'squares';
  return (
    <div className="house-codes">
      <div>
        <div className="row-fields">
          <ColourField label={HOUSE.codeInk} value={codes.ink} onColour={(ink) => set({ ink })} />
          <ColourField label={HOUSE.codeGround} value={codes.ground} onColour={(ground) => set({ ground })} />
        </div>
        <p className={reads ? 'note' : 'problem'}>{reads ? HOUSE.codeReads(ratio) : HOUSE.codeFails(ratio)}</p>
        <Choice
          word={CODES.parts.modules}
          of={MODULE_SHAPES}
          words={CODES.modules}
          value={modules}
          onValue={(next) => set({ modules: next })}
        />
        {(modules === 'dots' || modules === 'tiles') && (
          <Slider
            word={CODES.parts.fill}
            value={codes.fill ?? 100}
            {...STYLE_BOUNDS.fill}
            unit="%"
            onValue={(fill) => set({ fill })}
          />
        )}
        <Choice
          word={CODES.parts.finderShape}
          of={FINDER_SHAPES}
          words={CODES.finderShapes}
          value={codes.finderShape ?? 'square'}
          onValue={(finderShape) => set({ finderShape })}
        />
        <Form.Check
          type="switch"
          id="house-code-logo"
          label={HOUSE.codeLogo}
          disabled={!logo}
          checked={codes.logo !== undefined}
          onChange={({ target }) => set({ logo: target.checked ? LOGO_PERCENT : undefined })}
        />
        {!logo && <p className="note">{HOUSE.codeNoLogo}</p>}
        {codes.logo !== undefined && (
          <Slider
            word={HOUSE.codeLogo}
            value={codes.logo}
            {...STYLE_BOUNDS.mark}
            unit="%"
            onValue={(percent) => set({ logo: percent })}
          />
        )}
      </div>
      <figure className={busy ? 'busy' : ''}>
        {drawn && <img src={`data:image/svg+xml;utf8,${encodeURIComponent(drawn.svg)}`} alt={HOUSE.codeSample} />}
        <figcaption>
          <span role="status">
            {!report
              ? CODES.proving
              : report.faults.length > 0 || report.fewestPixels === null
                ? [CODES.doesNotScan, ...report.faults.map((fault) => CODES.faults[fault])].join(' ')
                : CODES.scansAt(WIDTH_MM, distanceMm(WIDTH_MM, report.side, report.fewestPixels))}
            {report && (
              <span className="note"> {CODES.readOf(readByBoth(report.proof).read, readByBoth(report.proof).of)}</span>
            )}
          </span>
        </figcaption>
      </figure>
    </div>
  );
}
