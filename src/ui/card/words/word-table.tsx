'use client';
import type { Edit, WordToSay } from '@/core/card';
import { LIMITS } from '@/core/limits';
import { CARD, WORDS } from '@/core/words';
import { directionOf, languageName, type Language } from '@/core/language';
import { BlockField } from '../blocks/block-field';

type Props = {
  language: Language;
  texts: WordToSay[];
  words: Record<string, string>;
  clashes: readonly Edit[];
  onWords: (words: Record<string, string>) => void;
  onTake: () => void;
  onSettle: (clash: Edit, mine: boolean) => void;
};

/** The texts of a card beside their words in another language. */
export function WordTable({ language, texts, words, clashes, onWords, onTake, onSettle }: Props) {
  const name = languageName(language);
  const keep = (key: string, text: string) => {
    const { [key]: _old, ...others } = words;
    onWords(text.trim() ? { ...others, [key]: text.trim() } : others);
  };
  return (
    <div className="word-table">
      {texts.length === 0 && <p className="note">{WORDS.nothing}</p>}
      <dl dir="ltr">
        {texts.map(({ key, what, text, long, known }) => {
          const clash = clashes.find((each) => each.edit === 'words' && each.language === language && each.key === key);
          return (
            <div key={key}>
              <dt>{what === 'label' ? WORDS.label(text) : text}</dt>
              <dd dir={directionOf(language)} lang={language}>
                <BlockField
                  id={`${language}-${key}`}
                  label={WORDS.says(what === 'name' ? WORDS.name : text.slice(0, 40), name)}
                  hint={known ? WORDS.fromRecord(known) : ''}
                  long={long}
                  value={words[key] ?? ''}
                  most={LIMITS.blockText}
                  onKeep={(typed) => keep(key, typed)}
                />
                {clash && (
                  <span className="clash" role="alert">
                    {WORDS.clash(words[key] ?? '')}
                    <button type="button" className="plain" onClick={() => onSettle(clash, false)}>
                      {CARD.keepTheirs}
                    </button>
                    <button type="button" className="plain" onClick={() => onSettle(clash, true)}>
                      {CARD.putMine}
                    </button>
                  </span>
                )}
              </dd>
            </div>
          );
        })}
      </dl>
      <button type="button" className="plain" onClick={onTake}>
        {WORDS.take(name)}
      </button>
    </div>
  );
}
