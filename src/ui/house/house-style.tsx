'use client';
import type { HousePreview } from '@/core/shown';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { codeReads, houseLogo, logoGround, type HouseStyle, type Lockable } from '@/core/house';
import { LIMITS } from '@/core/limits';
import { LAYOUT_NAMES } from '@/core/look';
import { HOUSE, LOOK } from '@/core/words';
import { call } from '@/ui/studio/call';
import { instantIn } from '@/ui/studio/instant';
import { ProblemNote } from '@/ui/studio/problem-note';
import { HouseBlocks } from './house-blocks';
import { HouseBeside, useCardsBeside } from './house-beside';
import { HouseEffects } from './house-effects';
import { HouseFace } from './house-face';
import { HouseInks } from './house-inks';
import { HouseLines } from './house-lines';
import { HouseLogos } from './house-logos';
import { HouseOwners } from './house-owners';
import { HouseSignatures } from './house-signatures';
import { HouseProofs, type Proofs } from './house-proofs';
import { LookFields, Section } from '@/ui/look/look-fields';

// Drawing and proof of codes come once the screen is there.
const HouseCodes = dynamic(() => import('./house-codes'), { ssr: false });

type Version = { number: number; note: string; savedAt: string; who: string | null };
type Props = {
  number: number;
  style: HouseStyle;
  versions: Version[];
  proofs: Proofs;
  organisation: string;
  country: string;
  zone: string;
  /** What a code of this organisation holds. */
  sampleCode: string;
};

/** The house style: what every card wears, what of it is locked and why, and what saving it would change. */
export function HouseStyleForm({
  number,
  style: first,
  versions: known,
  proofs: made,
  organisation,
  country,
  zone,
  sampleCode,
}: Props) {
  const [base, setBase] = useState(number);
  const [style, setStyle] = useState(first);
  const [saved, setSaved] = useState(first);
  const [versions, setVersions] = useState(known);
  const [proofs, setProofs] = useState(made);
  const [note, setNote] = useState('');
  const [preview, setPreview] = useState<HousePreview | null>(null);
  const [busy, setBusy] = useState<'preview' | 'save' | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [told, setTold] = useState<string | null>(null);

  function change(next: HouseStyle) {
    setStyle(next);
    setPreview(null);
    setTold(null);
  }
  const lock = (part: Lockable, word: string) => (
    <LockField
      part={part}
      word={word}
      reason={style.locks[part]}
      onReason={(reason) => {
        const { [part]: _old, ...others } = style.locks;
        change({ ...style, locks: reason === null ? others : { ...others, [part]: reason } });
      }}
    />
  );
  async function look() {
    setBusy('preview');
    const answer = await call<HousePreview>('/api/house/preview', { json: { style } });
    setBusy(null);
    if (!answer.ok) return setProblem(answer.problem);
    setProblem(answer.value.refused);
    setPreview(answer.value);
  }
  async function refresh() {
    const answer = await call<{ number: number; style: HouseStyle | null; versions: Version[] }>('/api/house');
    if (answer.ok) setVersions(answer.value.versions);
    const proven = await call<Proofs>('/api/house/proofs');
    if (proven.ok) setProofs(proven.value);
    return answer;
  }
  async function save(overrideContrast = false) {
    setBusy('save');
    const answer = await call<{ number: number; cards: number }>('/api/house', {
      method: 'PUT',
      json: { baseNumber: base, style, note, ...(overrideContrast ? { overrideContrast } : {}) },
    });
    setBusy(null);
    if (!answer.ok) return setProblem(answer.problem);
    setProblem(null);
    setBase(answer.value.number);
    setSaved(style);
    setNote('');
    setPreview(null);
    setTold(HOUSE.saved(answer.value.number, answer.value.cards));
    await refresh();
  }
  async function take(from: number) {
    const answer = await call<{ style: HouseStyle }>(`/api/house/${from}`);
    if (answer.ok) change(answer.value.style);
    else setProblem(answer.problem);
  }
  async function theirs() {
    const answer = await refresh();
    if (!answer.ok || !answer.value.style) return;
    setBase(answer.value.number);
    setSaved(answer.value.style);
    change(answer.value.style);
    setProblem(null);
  }
  const cards = useCardsBeside();
  const shownCard = cards?.[0];
  const codesRead = codeReads(style.codes.ink, style.codes.ground);
  return (
    <div className="company house-style">
      <p className="finding">{base === 0 ? HOUSE.none : HOUSE.text}</p>
      <div className="house-two">
        <div>
          <LookFields
            look={style.look}
            sample={organisation}
            logo={houseLogo(style, logoGround(style.look))?.hash ?? null}
            kept={() => false}
            beside={(part) => lock(part, LOOK.part[part])}
            faceOf={
              shownCard
                ? (layout) => <HouseFace card={shownCard.id} style={style} name="card-lying" layout={layout} />
                : null
            }
            allowed={() => true}
            onLook={(next) => change({ ...style, look: next })}
          />
          <Section title={HOUSE.layoutsAllowed}>
            <div className="allowed">
              {LAYOUT_NAMES.map((name) => (
                <Form.Check
                  key={name}
                  id={`allowed-${name}`}
                  label={LOOK.layouts[name][0]}
                  checked={style.layouts.includes(name)}
                  disabled={style.layouts.length === 1 && style.layouts[0] === name}
                  onChange={({ target }) =>
                    change({
                      ...style,
                      layouts: LAYOUT_NAMES.filter((each) =>
                        each === name ? target.checked : style.layouts.includes(each),
                      ),
                    })
                  }
                />
              ))}
            </div>
          </Section>
          <Section title={HOUSE.owned.title}>
            <HouseOwners owned={style.owned ?? {}} onOwned={(owned) => change({ ...style, owned })} />
            <div className="owner-locks">
              <span>{HOUSE.owned.ticks}</span> {lock('ticks', HOUSE.owned.ticks)}
            </div>
            <div className="owner-locks">
              <span>{HOUSE.owned.order}</span> {lock('order', HOUSE.owned.order)}
            </div>
          </Section>
          <Section title={HOUSE.logos} beside={lock('logo', HOUSE.logos)}>
            <HouseLogos
              logos={style.logos}
              palette={style.look.palette}
              onLogos={(logos) => change({ ...style, logos })}
            />
          </Section>
          <Section title={HOUSE.lines} beside={lock('lines', HOUSE.lines)}>
            <HouseLines lines={style.lines} country={country} onLines={(lines) => change({ ...style, lines })} />
          </Section>
          <Section title={HOUSE.blocks} beside={lock('blocks', HOUSE.blocks)}>
            <HouseBlocks blocks={style.blocks} onBlocks={(blocks) => change({ ...style, blocks })} />
          </Section>
          <Section title={HOUSE.codes} beside={lock('codes', HOUSE.codes)}>
            <HouseCodes
              codes={style.codes}
              logo={style.logos.onLight}
              sample={sampleCode}
              onCodes={(codes) => change({ ...style, codes })}
            />
          </Section>
          <Section title={HOUSE.inks}>
            <HouseInks
              inks={style.inks ?? []}
              colours={[...Object.values(style.look.palette), style.codes.ink]}
              onInks={(inks) => change({ ...style, inks: inks.length > 0 ? inks : undefined })}
            />
          </Section>
          <Section title={HOUSE.signature} beside={lock('signature', HOUSE.signature)}>
            <HouseSignatures
              signature={style.signature ?? null}
              onSignature={(signature) => change({ ...style, signature })}
            />
          </Section>
        </div>
        <aside className="house-side">
          <div className="house-acts">
            <Form.Group controlId="house-note">
              <Form.Label>{HOUSE.note}</Form.Label>
              <Form.Control
                size="sm"
                value={note}
                maxLength={LIMITS.revisionNote}
                onChange={({ target }) => setNote(target.value)}
              />
            </Form.Group>
            <Button variant={preview ? 'quiet' : 'primary'} disabled={busy !== null} onClick={() => void look()}>
              {busy === 'preview' ? HOUSE.previewing : HOUSE.preview}
            </Button>
            <Button
              variant={preview ? 'primary' : 'quiet'}
              disabled={
                busy !== null || !preview || preview.refused !== null || !codesRead || (style === saved && base > 0)
              }
              onClick={() => void save()}
            >
              {HOUSE.save}
            </Button>
          </div>
          <ProblemNote problem={problem} />
          {problem?.code === 'CONTRAST_FAILS' && (
            <Button size="sm" variant="quiet" disabled={busy !== null} onClick={() => void save(true)}>
              {HOUSE.allTheSame}
            </Button>
          )}
          {problem?.code === 'HOUSE_CHANGED' && (
            <Button size="sm" variant="quiet" onClick={() => void theirs()}>
              {HOUSE.theirs}
            </Button>
          )}
          <p role="status">{told ?? ''}</p>
          {preview && <HouseEffects preview={preview} />}
          <HouseBeside cards={cards} style={style} />
          <HouseProofs first={proofs} zone={zone} />
          {versions.length > 0 && (
            <>
              <h2 className="caps">{HOUSE.versions}</h2>
              <ol className="house-versions">
                {versions.map((each) => (
                  <li key={each.number}>
                    <span>
                      {HOUSE.versionBy(each.number, each.who ?? HOUSE.somebody, instantIn(zone, each.savedAt))}
                      {each.note && <small>{each.note}</small>}
                    </span>
                    <button type="button" className="plain" onClick={() => void take(each.number)}>
                      {HOUSE.versionTake}
                    </button>
                  </li>
                ))}
              </ol>
            </>
          )}
        </aside>
      </div>
    </div>
  );
}

/** A lock on a part, with the reason that a holder reads. */
function LockField({
  part,
  word,
  reason,
  onReason,
}: {
  part: Lockable;
  word: string;
  reason: string | undefined;
  onReason: (reason: string | null) => void;
}) {
  const [typed, setTyped] = useState(reason ?? '');
  return (
    <span className="lock-field">
      <Form.Check
        id={`lock-${part}`}
        label={HOUSE.lock}
        aria-label={HOUSE.lockOf(word)}
        checked={reason !== undefined}
        onChange={({ target }) => onReason(target.checked ? typed.trim() || word : null)}
      />
      {reason !== undefined && (
        <Form.Control
          size="sm"
          aria-label={HOUSE.reasonOf(word)}
          placeholder={HOUSE.reason}
          value={typed}
          maxLength={LIMITS.lockReason}
          onChange={({ target }) => {
            setTyped(target.value);
            onReason(target.value.trim() || word);
          }}
        />
      )}
    </span>
  );
}
