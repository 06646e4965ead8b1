'use client';
import { Button } from 'react-bootstrap';
import { coloursOf, fails, pairsInUse, proposalFor, shiftedFor, type Look, type Palette } from '@/core/look';
import { LOOK } from '@/core/words';

/**
 * Every pair of colours that the look puts together, measured; where one fails, inks in which none does. The brand's colour stays: where
 * the button hardly shows it has an edge, and shifting the colour itself is offered last.
 */
export function Pairs({ look, onPalette }: { look: Look; onPalette: ((palette: Palette) => void) | null }) {
  const pairs = pairsInUse(look);
  const failing = pairs.filter(({ pair }) => fails(pair));
  const shifted = shiftedFor(look);
  return (
    <div className="pairs">
      <p className={`finding${failing.length > 0 ? ' failed' : ''}`} role="status">
        {failing.length > 0 ? LOOK.someFail(failing.length, pairs.length) : LOOK.allRead(pairs.length)}
        {failing.length > 0 && onPalette && (
          <Button size="sm" variant="quiet" onClick={() => onPalette(proposalFor(look))}>
            {LOOK.propose}
          </Button>
        )}
      </p>
      {shifted && (
        <p className="note shifted">
          {LOOK.hasEdge} <Swatch colour={look.palette.act} /> <Swatch colour={coloursOf(look.palette).edge} />
          {onPalette && (
            <button type="button" className="plain" onClick={() => onPalette(shifted)}>
              {LOOK.shift} <Swatch colour={shifted.act} />
            </button>
          )}
        </p>
      )}
      <table>
        <caption className="visually-hidden">{LOOK.pairs}</caption>
        <tbody>
          {pairs.map(({ by, pair }) => (
            <tr key={`${by} ${pair.of}`} className={fails(pair) ? 'failed' : ''}>
              <td>
                <span className="sample" aria-hidden="true" style={{ color: pair.front, background: pair.back }}>
                  {LOOK.sampleOf(pair.of)}
                </span>
              </td>
              <th scope="row">
                {LOOK.pairNames[pair.of]} <small>{LOOK.by[by]}</small>
              </th>
              <td className="num">{LOOK.ratio(pair.ratio)}</td>
              <td className="num soft">{LOOK.needs(pair.needs)}</td>
              <td>{fails(pair) ? `× ${LOOK.fails}` : `✓ ${LOOK.reads}`}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="note">{LOOK.pairsSource}</p>
    </div>
  );
}

const Swatch = ({ colour }: { colour: string }) => (
  <span className="mono one-colour">
    <i style={{ background: colour }} aria-hidden="true" />
    {colour}
  </span>
);
