'use client';
import { Form } from 'react-bootstrap';
import type { ComposedLine } from '@/core/card';
import { LINE_SIZES, LINE_TONES, usesAccent, type LineLook, type Look } from '@/core/look';
import { LOOK } from '@/core/words';
import { shownValue } from '@/core/record';
import { Section } from './look-fields';

const PLAIN: LineLook = { size: 'normal', heavy: false, tone: 'ink' };
const isPlain = ({ size, heavy, tone }: LineLook) => size === 'normal' && !heavy && tone === 'ink';

/** Size, weight and colour of single lines, within what reads. */
export function LineLooks({
  lines,
  look,
  worn,
  onLook,
}: {
  lines: ComposedLine[];
  look: Look;
  /** As it shows: an accent that does not read on the house's sheet is set in ink. */
  worn: Look;
  onLook: (look: Look) => void;
}) {
  function set(id: string, change: Partial<LineLook>) {
    const next = { ...PLAIN, ...look.lines[id], ...change };
    const { [id]: _old, ...others } = look.lines;
    onLook({ ...look, lines: isPlain(next) ? others : { ...others, [id]: next } });
  }
  return (
    <Section title={LOOK.lines}>
      {lines.length === 0 ? (
        <p className="note">{LOOK.linesNone}</p>
      ) : (
        <>
          {usesAccent(look) && !usesAccent(worn) && <p className="note">{LOOK.accentGaveWay}</p>}
          <table className="line-looks">
            <tbody>
              {lines.map((line) => {
                const own = look.lines[line.id] ?? PLAIN;
                const name = line.label || shownValue(line.detail);
                return (
                  <tr key={line.id}>
                    <th scope="row">
                      {line.label && <small>{line.label}</small>} {shownValue(line.detail)}
                    </th>
                    <td>
                      <Form.Select
                        size="sm"
                        aria-label={LOOK.lineSize(name)}
                        value={own.size}
                        onChange={({ target }) => set(line.id, { size: target.value as LineLook['size'] })}
                      >
                        {LINE_SIZES.map((each) => (
                          <option key={each} value={each}>
                            {LOOK.scales[each]}
                          </option>
                        ))}
                      </Form.Select>
                    </td>
                    <td>
                      <Form.Select
                        size="sm"
                        aria-label={LOOK.lineTone(name)}
                        value={own.tone}
                        onChange={({ target }) => set(line.id, { tone: target.value as LineLook['tone'] })}
                      >
                        {LINE_TONES.map((each) => (
                          <option key={each} value={each}>
                            {LOOK.tones[each]}
                          </option>
                        ))}
                      </Form.Select>
                    </td>
                    <td>
                      <Form.Check
                        id={`heavy-${line.id}`}
                        label={LOOK.heavy}
                        aria-label={LOOK.lineHeavy(name)}
                        checked={own.heavy}
                        onChange={({ target }) => set(line.id, { heavy: target.checked })}
                      />
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </>
      )}
    </Section>
  );
}
