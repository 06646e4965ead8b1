import { languagesOf } from '@/core/card';
import { OUR_LANGUAGES, pickLanguage, type Language } from '@/core/language';
import type { PublishedCard } from '@/server/services/publishing/load-published';
import type { RecipientRequest } from './request';

/** The languages that a page of the card can be in. */
export function languagesAt({ composition }: Pick<PublishedCard, 'composition'>): readonly Language[] {
  const offered = languagesOf(composition);
  return offered.length > 0 ? offered : OUR_LANGUAGES;
}

/** The card's language for this recipient: the one chosen on the page, else the first of the card's that the browser asks for. */
export function languageFor({ composition }: Pick<PublishedCard, 'composition'>, request: RecipientRequest): Language {
  const offered = languagesOf(composition);
  const chosen = offered.find((language) => language === request.query.get('lang'));
  if (chosen) return chosen;
  const one = offered.length === 1 ? offered[0]! : null;
  return pickLanguage(one, request.header('accept-language'), offered.length > 1 ? offered : undefined);
}
