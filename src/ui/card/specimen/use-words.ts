'use client';
import { useEffect, useState } from 'react';
import { hasWords, loadWords } from '@/core/messages';
import type { Language } from '@/core/language';

/** Whether our own words for what is said in a language have come; they are loaded where a page in it is shown. */
export function useWords(language: Language): boolean {
  const [come, setCome] = useState<Language | null>(null);
  useEffect(() => {
    let wanted = true;
    void loadWords(language).then(() => wanted && setCome(language));
    return () => {
      wanted = false;
    };
  }, [language]);
  // What the server knows already is no reason to render otherwise there.
  return come === language || (language === 'en' && hasWords(language));
}
