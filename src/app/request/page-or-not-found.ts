import { notFound } from 'next/navigation';
import { Refusal } from '@/core/errors';
import { idOf } from './respond';

/** What a page shows for the id in its address; the page for nothing here when there is none. */
export async function orNotFound<T>(rawId: string, load: (id: string) => Promise<T>): Promise<T> {
  try {
    return await load(idOf(rawId));
  } catch (error) {
    if (error instanceof Refusal && error.problem.code === 'NOT_FOUND') notFound();
    throw error;
  }
}
