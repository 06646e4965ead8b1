import { notFound, redirect } from 'next/navigation';
import { Refusal } from '@/core/errors';
import { idOf } from './respond';

/** What a page shows; the page for nothing here when there is none, or when the member's role does not include it. */
export async function shownOrNotFound<T>(load: () => Promise<T>): Promise<T> {
  try {
    return await load();
  } catch (error) {
    const code = error instanceof Refusal ? error.problem.code : null;
    if (code === 'NOT_FOUND' || code === 'NOT_ALLOWED') notFound();
    if (code === 'PASSWORD_MUST_CHANGE') redirect('/password');
    if (code === 'SECOND_FACTOR_REQUIRED') redirect('/account');
    throw error;
  }
}

/** The same for the id in a page's address. */
export const orNotFound = <T>(rawId: string, load: (id: string) => Promise<T>): Promise<T> =>
  shownOrNotFound(() => load(idOf(rawId)));
