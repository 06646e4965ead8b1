'use client';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { AudiencePresetsSchema, LEFT_OUT, type Audience } from '@/core/card';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { kindIn } from '@/core/messages';
import { CARDS, FRAME } from '@/core/words';
import { call } from '@/ui/studio/call';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';

/** The organisation's audience presets: what a new card of each starts with. */
export function Audiences({ audiences }: { audiences: Audience[] }) {
  const [presets, setPresets] = useState(audiences);
  const [saved, setSaved] = useState(audiences);
  const [problem, setProblem] = useState<Problem | null>(null);
  const put = (at: number, change: Partial<Audience>) =>
    setPresets(presets.map((preset, each) => (each === at ? { ...preset, ...change } : preset)));
  const fits = AudiencePresetsSchema.safeParse(presets).success;

  async function save(next: Audience[] | null) {
    const answer = await call<{ audiences: Audience[] }>('/api/audiences', {
      method: 'PUT',
      json: { audiences: next },
    });
    if (!answer.ok) return setProblem(answer.problem);
    setProblem(null);
    setPresets(answer.value.audiences);
    setSaved(answer.value.audiences);
  }

  return (
    <section className="audiences">
      <p className="finding">{CARDS.audiencesText}</p>
      <div className="wide">
        <table className="rows">
          <thead>
            <tr>
              <th>{CARDS.preset}</th>
              <th>{CARDS.isPrivate}</th>
              <th>{CARDS.without}</th>
              <th>
                <span className="visually-hidden">{FRAME.acts}</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {presets.map((preset, at) => (
              <tr key={at}>
                <td>
                  <Form.Control
                    size="sm"
                    aria-label={CARDS.presetNamed(at + 1)}
                    value={preset.name}
                    maxLength={LIMITS.audience}
                    {...invalid(`preset-${at}-problem`, !preset.name.trim())}
                    onChange={(event) => put(at, { name: event.target.value })}
                  />
                  {!preset.name.trim() && (
                    <p className="problem" id={`preset-${at}-problem`}>
                      {CARDS.presetNeedsName}
                    </p>
                  )}
                </td>
                <td>
                  <input
                    type="checkbox"
                    aria-label={CARDS.presetPrivate(preset.name)}
                    checked={preset.isPrivate}
                    onChange={(event) => put(at, { isPrivate: event.target.checked })}
                  />
                </td>
                <td className="left-out">
                  {LEFT_OUT.map((kind) => (
                    <label key={kind}>
                      <input
                        type="checkbox"
                        aria-label={CARDS.leavesOut(kindIn('en', kind).toLowerCase(), preset.name)}
                        checked={preset.without.includes(kind)}
                        onChange={(event) =>
                          put(at, {
                            without: event.target.checked
                              ? [...preset.without, kind]
                              : preset.without.filter((each) => each !== kind),
                          })
                        }
                      />{' '}
                      {kindIn('en', kind)}
                    </label>
                  ))}
                </td>
                <td className="acts-cell">
                  <button
                    type="button"
                    className="plain"
                    aria-label={CARDS.removePreset(preset.name)}
                    onClick={() => setPresets(presets.filter((_, each) => each !== at))}
                  >
                    {FRAME.remove}
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <ProblemNote problem={problem} />
      <div className="pair">
        <Button variant="quiet" onClick={() => setPresets([...presets, { name: '', isPrivate: false, without: [] }])}>
          {CARDS.addPreset}
        </Button>
        <Button disabled={!fits || presets === saved} onClick={() => void save(presets)}>
          {CARDS.savePresets}
        </Button>
        <Button variant="quiet" onClick={() => void save(null)}>
          {CARDS.oursAgain}
        </Button>
        <span className="also" aria-live="polite">
          {presets === saved && saved !== audiences ? CARDS.savedPresets : ''}
        </span>
      </div>
    </section>
  );
}
