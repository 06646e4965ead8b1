'use client';
import { Button, Form } from 'react-bootstrap';
import type { CompanyDefaults } from '@/core/company';
import { LIMITS } from '@/core/limits';
import { COMPANY, FRAME, LEADS } from '@/core/words';
import { languageName } from '@/core/language';
import { isPattern, type Pattern } from '@/core/record';
import { LanguagePicker } from '@/ui/studio/language-picker';
import { invalid } from '@/ui/studio/problem-note';

type Props = { defaults: CompanyDefaults; onDefaults: (defaults: CompanyDefaults) => void };

/** What members begin with: languages, texts for resting and retired cards, whom they ask, services whose links are made from a number or name. */
export function DefaultFields({ defaults, onDefaults }: Props) {
  const { languages, texts, ask, patterns, leads } = defaults;
  const put = (change: Partial<CompanyDefaults>) => onDefaults({ ...defaults, ...change });
  return (
    <>
      <fieldset>
        <legend>{COMPANY.languages}</legend>
        <p className="small">{COMPANY.languagesNote}</p>
        {languages.length > 0 && (
          <ul className="chosen-languages">
            {languages.map((each, at) => (
              <li key={each}>
                {languageName(each)} {at === 0 && <small>{COMPANY.firstLanguage}</small>}
                <button
                  type="button"
                  className="plain"
                  aria-label={COMPANY.removeLanguage(languageName(each))}
                  onClick={() => put({ languages: languages.filter((other) => other !== each) })}
                >
                  {FRAME.remove}
                </button>
              </li>
            ))}
          </ul>
        )}
        {languages.length < LIMITS.languages && (
          <LanguagePicker
            id="company-language"
            word={COMPANY.languages}
            taken={languages}
            onPick={(language) => put({ languages: [...languages, language] })}
          />
        )}
      </fieldset>
      <fieldset>
        <legend>{COMPANY.texts}</legend>
        <p className="small">{COMPANY.textsNote}</p>
        {(['resting', 'retired'] as const).map((state) => (
          <Form.Group controlId={`text-${state}`} key={state}>
            <Form.Label>{COMPANY.text[state]}</Form.Label>
            <Form.Control
              as="textarea"
              rows={2}
              maxLength={LIMITS.text}
              value={texts[state]}
              placeholder={COMPANY.textHint[state]}
              onChange={({ target }) => put({ texts: { ...texts, [state]: target.value } })}
            />
          </Form.Group>
        ))}
      </fieldset>
      <Form.Group controlId="ask">
        <Form.Label>{COMPANY.ask}</Form.Label>
        <Form.Control
          maxLength={LIMITS.label}
          value={ask}
          placeholder={COMPANY.askHint}
          onChange={({ target }) => put({ ask: target.value })}
        />
        <Form.Text>{COMPANY.askNote}</Form.Text>
      </Form.Group>
      <fieldset>
        <legend>{LEADS.title}</legend>
        <p className="small">{COMPANY.leadsNote}</p>
        <label className="gap-choice">
          <input
            type="checkbox"
            checked={!leads.private}
            onChange={({ target }) => put({ leads: { ...leads, private: !target.checked } })}
          />{' '}
          {COMPANY.leadsShared}
        </label>
        <Form.Group controlId="lead-months">
          <Form.Label>{COMPANY.leadsMonths}</Form.Label>
          <Form.Control
            type="number"
            min={1}
            max={120}
            value={leads.months}
            onChange={({ target }) =>
              put({ leads: { ...leads, months: Math.min(120, Math.max(1, Math.round(Number(target.value)) || 1)) } })
            }
          />
          <Form.Text>{COMPANY.leadsMonthsNote}</Form.Text>
        </Form.Group>
      </fieldset>
      <Patterns patterns={patterns} onPatterns={(next) => put({ patterns: next })} />
    </>
  );
}

function Patterns({
  patterns,
  onPatterns,
}: {
  patterns: Pattern[];
  onPatterns: (patterns: CompanyDefaults['patterns']) => void;
}) {
  const set = (at: number, change: Partial<Pattern>) =>
    onPatterns(patterns.map((each, index) => (index === at ? { ...each, ...change } : each)));
  return (
    <fieldset>
      <legend>{COMPANY.patterns}</legend>
      <p className="small">{COMPANY.patternsNote}</p>
      {patterns.map((pattern, at) => {
        const wrong = !isPattern(pattern);
        return (
          <div className="pattern" key={at}>
            <Form.Control
              size="sm"
              aria-label={COMPANY.patternName(at + 1)}
              placeholder={COMPANY.patternNameHint}
              maxLength={40}
              value={pattern.name}
              {...invalid(`pattern-${at}-problem`, wrong)}
              onChange={({ target }) => set(at, { name: target.value })}
            />
            <Form.Control
              size="sm"
              className="mono"
              aria-label={COMPANY.patternAddress(at + 1)}
              placeholder={COMPANY.patternAddressHint}
              maxLength={300}
              spellCheck={false}
              autoCapitalize="off"
              value={pattern.address}
              {...invalid(`pattern-${at}-problem`, wrong)}
              onChange={({ target }) => set(at, { address: target.value })}
            />
            <button
              type="button"
              className="plain"
              aria-label={COMPANY.removePattern(pattern.name)}
              onClick={() => onPatterns(patterns.filter((_, index) => index !== at))}
            >
              {FRAME.remove}
            </button>
            {wrong && (
              <p className="problem" id={`pattern-${at}-problem`}>
                {COMPANY.patternWrong}
              </p>
            )}
          </div>
        );
      })}
      {patterns.length < LIMITS.patterns && (
        <Button size="sm" variant="quiet" onClick={() => onPatterns([...patterns, { name: '', address: '' }])}>
          {COMPANY.addPattern}
        </Button>
      )}
    </fieldset>
  );
}
