'use client';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { LANGUAGES_WORDS as WORDS } from '@/core/words';
import { languageName, OUR_LANGUAGES, type Language } from '@/core/language';
import { invalid } from './problem-note';
import { LANGUAGE_LIST, languageTyped } from './languages';

/** Chooses any language: by its name in English or in itself, or by its tag. */
export function LanguagePicker({
  id,
  word,
  taken,
  onPick,
}: {
  id: string;
  word: string;
  taken: readonly Language[];
  onPick: (language: Language) => void;
}) {
  const [typed, setTyped] = useState('');
  // Platforms may call a language otherwise: the list is the browser's alone, from when it is wanted.
  const [listed, setListed] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const pick = () => {
    if (!typed.trim()) return;
    const language = languageTyped(typed);
    if (!language) return setProblem(WORDS.unknown);
    if (taken.includes(language)) return setProblem(WORDS.taken(languageName(language)));
    setTyped('');
    onPick(language);
  };
  return (
    <div className="language-picker">
      <Form.Control
        size="sm"
        id={id}
        list={`${id}-list`}
        aria-label={word}
        placeholder={WORDS.hint}
        autoComplete="off"
        onFocus={() => setListed(true)}
        value={typed}
        {...invalid(`${id}-problem`, problem !== null)}
        onChange={({ target }) => {
          setTyped(target.value);
          setProblem(null);
        }}
        // Enter adds the language and sends no form that this may stand in.
        onKeyDown={(event) => {
          if (event.key !== 'Enter') return;
          event.preventDefault();
          pick();
        }}
      />
      <datalist id={`${id}-list`}>
        {listed &&
          LANGUAGE_LIST.filter(({ tag }) => !taken.includes(tag)).map(({ tag, name, english }) => (
            <option key={tag} value={english} label={name === english ? undefined : name} />
          ))}
      </datalist>
      <Button variant="quiet" size="sm" aria-label={`${WORDS.add}: ${word}`} onClick={pick}>
        {WORDS.add}
      </Button>
      {problem && (
        <p className="problem" id={`${id}-problem`} role="alert">
          {problem}
        </p>
      )}
    </div>
  );
}

/** One language out of those that our own words exist in, and any other one by its name. `none` is the choice of no language. */
export function LanguageSelect({
  value,
  none,
  more = [],
  onChange,
}: {
  value: Language | null;
  none?: string;
  more?: readonly Language[];
  onChange: (language: Language | null) => void;
}) {
  const [other, setOther] = useState(false);
  const offered = [...new Set([...(value ? [value] : []), ...more, ...OUR_LANGUAGES])];
  return (
    <>
      <Form.Select
        value={other ? 'other' : (value ?? '')}
        onChange={({ target }) => {
          setOther(target.value === 'other');
          if (target.value !== 'other') onChange(target.value || null);
        }}
      >
        {none !== undefined && <option value="">{none}</option>}
        {offered.map((each) => (
          <option key={each} value={each}>
            {languageName(each)}
          </option>
        ))}
        <option value="other">{WORDS.other}</option>
      </Form.Select>
      {other && (
        <LanguagePicker
          id="other-language"
          word={WORDS.other}
          taken={[]}
          onPick={(language) => {
            setOther(false);
            onChange(language);
          }}
        />
      )}
    </>
  );
}
