import { z } from 'zod';
import { Refusal } from '@/core/errors';

/** Where a page of a list by name ended, as it goes out and comes back. */
const Place = z.tuple([
  z
    .string()
    .max(1_000)
    .regex(/^[^\0]*$/),
  z.uuid(),
]);

export const placeOf = ({ written_name, id }: { written_name: string; id: string }): string =>
  Buffer.from(JSON.stringify([written_name, id])).toString('base64url');

/** Error: INPUT. */
export function readPlace(text: string): { name: string; id: string } {
  try {
    const [name, id] = Place.parse(JSON.parse(Buffer.from(text, 'base64url').toString()));
    return { name, id };
  } catch {
    throw new Refusal({ code: 'INPUT', field: 'after' });
  }
}
