'use client';
import { useRef, useState, type FormEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { kindIn, wordOfUse } from '@/core/messages';
import { RECORD } from '@/core/words';
import {
  isBlock,
  readBlock,
  readLabelled,
  readDetail,
  readPattern,
  recogniseLine,
  TYPED_KINDS,
  USES,
  type Block,
  type Detail,
  type DetailOf,
  type TypedKind,
  type Use,
} from '@/core/record';
import { call } from '@/ui/studio/call';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';
import { useCompanyDefaults } from '@/ui/studio/organisation';
import { BlockReview } from './block-review';
import { freshId } from './fresh-id';
import { suitTexts } from './suit-texts';

const WITH_USES = new Set<TypedKind>(['phone', 'email', 'address']);

type Props = {
  country: string;
  zone: string;
  name: string;
  /** The details that are there already. */
  known: Detail[];
  onName: (typed: string) => void;
  onAdd: (details: Detail[]) => void;
  /** Absent where no pictures are kept. */
  onPicture?: (detail: DetailOf<'photo'> | DetailOf<'logo'>) => void;
};

/** Adds details: the kind is recognised from what is typed or pasted and can be set otherwise; a whole signature is taken apart for review. */
export function AddDetail({ country, zone, name, known, onName, onAdd, onPicture }: Props) {
  const [text, setText] = useState('');
  const [chosen, setChosen] = useState<TypedKind | null>(null);
  const [use, setUse] = useState<Use | ''>('');
  const [label, setLabel] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  const [block, setBlock] = useState<Block | null>(null);
  const [added, setAdded] = useState('');
  const photo = useRef<HTMLInputElement>(null);
  const logo = useRef<HTMLInputElement>(null);
  const { patterns } = useCompanyDefaults();
  const several = isBlock(text) && chosen === null;
  const made = chosen === null || chosen === 'link' ? readPattern(text, patterns, country) : null;
  const labelled = chosen === null && !made ? readLabelled(text, country) : null;
  const kind = chosen ?? (made ? 'link' : (labelled?.kind ?? recogniseLine(text, country) ?? 'own'));

  const clear = () => {
    setText('');
    setLabel('');
    setChosen(null);
    setUse('');
    setProblem(null);
  };

  async function add(event: FormEvent) {
    event.preventDefault();
    if (several) return setBlock(readBlock(text, { country, zone, freshId, patterns }));
    const read = readDetail(kind, made?.url ?? labelled?.text ?? text, {
      id: freshId(),
      country,
      zone,
      uses: use && WITH_USES.has(kind) ? [use] : labelled?.uses,
      label: label.trim().slice(0, 120) || made?.label,
    });
    if (!read.ok) return setProblem(read.problem);
    const schemeAdded = kind === 'link' && !made && !/^[a-z][a-z0-9+.-]*:/i.test(text.trim());
    setAdded(schemeAdded ? RECORD.schemeAdded : '');
    clear();
    onAdd(await suitTexts([read.value]));
  }

  async function addPicture(which: 'photo' | 'logo', file: File | undefined) {
    if (!file) return;
    const answer = await call<{ picture: string }>(which === 'photo' ? '/api/photos' : '/api/logos', { bytes: file });
    if (!answer.ok) return setProblem(answer.problem);
    setProblem(null);
    onPicture?.({ kind: which, id: freshId(), label: '', preferred: false, picture: answer.value.picture });
  }

  return (
    <Form className="add-detail" onSubmit={add} noValidate>
      <h2 className="caps">{RECORD.addDetail}</h2>
      <div className="pair">
        <Form.Control
          as="textarea"
          rows={several ? 6 : 1}
          aria-label={RECORD.value}
          placeholder={RECORD.valueHint}
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setProblem(null);
          }}
          onKeyDown={(event) => {
            if (event.key === 'Enter' && !event.shiftKey && text.trim()) void add(event);
          }}
          {...invalid('add-detail-problem', problem !== null)}
        />
        {!several && (
          <>
            <Form.Select
              aria-label={RECORD.kind}
              value={kind}
              onChange={(event) => setChosen(event.target.value as TypedKind)}
            >
              {TYPED_KINDS.map((each) => (
                <option key={each} value={each}>
                  {each === 'own' ? RECORD.ofMyOwn : kindIn('en', each)}
                </option>
              ))}
            </Form.Select>
            {WITH_USES.has(kind) && (
              <Form.Select
                aria-label={RECORD.use}
                value={use}
                onChange={(event) => setUse(event.target.value as Use | '')}
              >
                <option value="">{RECORD.anyUse}</option>
                {USES.filter((each) => each !== 'text' && (kind === 'phone' || each === 'work' || each === 'home')).map(
                  (each) => (
                    <option key={each} value={each}>
                      {wordOfUse('en', each)}
                    </option>
                  ),
                )}
              </Form.Select>
            )}
            <Form.Control
              aria-label={RECORD.label}
              className="short"
              placeholder={RECORD.label}
              value={label}
              maxLength={120}
              onChange={(event) => setLabel(event.target.value)}
            />
          </>
        )}
        <Button type="submit" variant="quiet" disabled={!text.trim()}>
          {several ? RECORD.takeApart : RECORD.add}
        </Button>
        {onPicture && (
          <>
            <Button variant="quiet" onClick={() => photo.current?.click()}>
              {RECORD.setPhoto}
            </Button>
            <Button variant="quiet" onClick={() => logo.current?.click()}>
              {RECORD.setLogo}
            </Button>
            <PictureInput input={photo} label={RECORD.photoFile} onFile={(file) => addPicture('photo', file)} />
            <PictureInput input={logo} label={RECORD.logoFile} drawn onFile={(file) => addPicture('logo', file)} />
          </>
        )}
      </div>
      <ProblemNote problem={problem} id="add-detail-problem" />
      <p className="also" aria-live="polite">
        {added}
      </p>
      {block && (
        <BlockReview
          block={block}
          country={country}
          zone={zone}
          name={name}
          known={known}
          onTake={async (taken) => {
            setBlock(null);
            clear();
            if (taken.name) onName(taken.name);
            onAdd(await suitTexts(taken.details));
          }}
          onClose={() => setBlock(null)}
        />
      )}
    </Form>
  );
}

const PHOTOS = 'image/jpeg,image/png,image/webp,image/avif,image/heic,.heic';

function PictureInput({
  input,
  label,
  drawn = false,
  onFile,
}: {
  input: React.RefObject<HTMLInputElement | null>;
  label: string;
  drawn?: boolean;
  onFile: (file: File | undefined) => void;
}) {
  return (
    <input
      ref={input}
      type="file"
      accept={drawn ? `${PHOTOS},image/svg+xml` : PHOTOS}
      className="visually-hidden"
      aria-label={label}
      tabIndex={-1}
      onChange={(event) => {
        onFile(event.target.files?.[0]);
        event.target.value = '';
      }}
    />
  );
}
