'use client';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { wordsToSay, type Draft, type Edit, type Words } from '@/core/card';
import { LIMITS } from '@/core/limits';
import { WORDS } from '@/core/words';
import { languageName, type Language } from '@/core/language';
import type { PersonRecord } from '@/core/record';
import { LanguagePicker } from '@/ui/studio/language-picker';
import { useCompanyDefaults } from '@/ui/studio/organisation';
import { Chevron } from '@/ui/card/ledger/marks';

const WordTable = dynamic(() => import('./word-table').then((made) => made.WordTable));

type Props = {
  draft: Draft;
  record: PersonRecord;
  clashes: readonly Edit[];
  onDraft: (draft: Draft) => void;
  onSettle: (clash: Edit, mine: boolean) => void;
};

/** The languages that a card is said in besides its first, and its texts in each. */
export function Languages({ draft, record, clashes, onDraft, onSettle }: Props) {
  const [open, setOpen] = useState<Language | null>(null);
  const first = draft.language ?? 'en';
  const said = Object.keys(draft.words)
    .filter((each) => each !== first)
    .sort();
  const { languages: usual } = useCompanyDefaults();
  const setWords = (words: Words) => onDraft({ ...draft, words });
  const add = (language: Language) => {
    setWords({ ...draft.words, [language]: {} });
    setOpen(language);
  };
  return (
    <section className="blocks" aria-labelledby="languages-title">
      <div className="blocks-title">
        <h2 id="languages-title" className="caps">
          {WORDS.title}
        </h2>
        <span className="language-adds">
          {said.length < LIMITS.languages &&
            usual
              .filter((each) => each !== first && !said.includes(each))
              .map((each) => (
                <button key={each} type="button" className="plain" onClick={() => add(each)}>
                  {WORDS.addOne(languageName(each))}
                </button>
              ))}
          {said.length < LIMITS.languages && (
            <LanguagePicker id="card-language" word={WORDS.add} taken={[first, ...said]} onPick={add} />
          )}
        </span>
      </div>
      <p className="note">
        {said.length === 0 ? WORDS.one : WORDS.several([first, ...said].map((each) => languageName(each)))}
      </p>
      <ul className="block-rows">
        {said.map((language) => {
          const texts = wordsToSay(draft, record, language);
          const done = texts.filter(({ key, known }) => draft.words[language]?.[key] || known).length;
          return (
            <li key={language}>
              <div className="block-row">
                <button
                  type="button"
                  className="block-name"
                  aria-expanded={open === language}
                  onClick={() => setOpen(open === language ? null : language)}
                >
                  <b>{WORDS.open(languageName(language), done, texts.length)}</b>
                  <small />
                  <Chevron up={open === language} />
                </button>
              </div>
              {open === language && (
                <WordTable
                  language={language}
                  texts={texts}
                  words={draft.words[language] ?? {}}
                  clashes={clashes}
                  onWords={(words) => setWords({ ...draft.words, [language]: words })}
                  onTake={() => {
                    const { [language]: _taken, ...others } = draft.words;
                    setWords(others);
                    setOpen(null);
                  }}
                  onSettle={onSettle}
                />
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
