import { judge } from '@/core/response';
import type { PublishedCard } from '@/server/services/publishing/load-published';
import type { Asked, RecipientRequest } from './request';

/** What is given: of a card that opens as its contact file that file, where the page was asked for. */
export const asOpened = (card: PublishedCard, asked: Asked, request: RecipientRequest): Asked =>
  opensFile(card, asked, request) ? { ...asked, what: { output: 'file' } } : asked;

/** Whether a card that opens as its contact file is asked for by a person who did not ask for the page (`?page`). */
function opensFile({ composition }: PublishedCard, { what }: Asked, request: RecipientRequest): boolean {
  if (what.output !== 'page' || composition.opens.first !== 'file' || request.query.has('page')) return false;
  // Programs that make link previews get the page, which tells them what the card is.
  const userAgent = request.header('user-agent').slice(0, 500);
  return judge({ method: 'GET', userAgent, purpose: '', range: '' }) === 'person';
}

/** Whether an address names what it depends on. */
const isPicture = ({ what }: Asked): boolean => 'hash' in what || 'key' in what;

/** What is printed shows today's card, so nothing on the way may keep it; a picture's address holds its hash. */
export function cachingOf(asked: Asked): string {
  if (isPicture(asked)) return 'public, max-age=31536000, immutable';
  return 'address' in asked.key ? 'no-cache' : 'no-store';
}
