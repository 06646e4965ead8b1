'use client';
import { useState } from 'react';
import { WORDS } from '@/core/words';
import { languageName, type Language } from '@/core/language';
import { cleanText, type Detail } from '@/core/record';
import { LanguagePicker } from '@/ui/studio/language-picker';
import { TextField } from './text-field';

/** Kinds whose value is words, and so may be other words in another language. */
const IN_WORDS = new Set<Detail['kind']>([
  'title',
  'role',
  'organisation',
  'nickname',
  'address',
  'pronouns',
  'credential',
  'note',
  'own',
]);
export const isInWords = ({ kind }: Detail): boolean => IN_WORDS.has(kind);

type Further = Record<Language, string> | undefined;

/** A value of the record in further languages; an empty field is none. */
export function FurtherFields({
  id,
  further,
  onFurther,
}: {
  id: string;
  further: Further;
  onFurther: (further: Further) => void;
}) {
  const [opened, setOpened] = useState<Language[]>([]);
  const languages = [...new Set([...Object.keys(further ?? {}).sort(), ...opened])];
  return (
    <fieldset className="further">
      <legend>{WORDS.inLanguages}</legend>
      <div className="fields">
        {languages.map((language) => (
          <TextField
            key={`${language} ${further?.[language] ?? ''}`}
            id={`${id}-${language}`}
            label={languageName(language)}
            value={further?.[language] ?? ''}
            onKeep={(typed) => {
              const { [language]: _old, ...others } = further ?? {};
              const text = cleanText(typed).text;
              const next = text ? { ...others, [language]: text } : others;
              onFurther(Object.keys(next).length > 0 ? next : undefined);
            }}
          />
        ))}
      </div>
      <LanguagePicker
        id={`${id}-language`}
        word={WORDS.add}
        taken={languages}
        onPick={(language) => setOpened([...opened, language])}
      />
      <p className="form-text">{WORDS.inLanguagesNote}</p>
    </fieldset>
  );
}
