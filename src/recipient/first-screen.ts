import { firstScreenOf, type FirstScreen } from '@/core/page';
import type { Language } from '@/core/language';
import { compute } from '@/server/compute';
import { files } from '@/server/files';
import { keptOnceMade, ROOM_FOR } from './kept';
import { pageBytes, type PublishedCard } from '@/server/services/publishing/load-published';

/** Ten segments of 1,460 bytes (RFC 6928), of which 2,000 bytes stay free for what a page grows by. */
export const ROOM = 14_600 - 2_000;
/** Base 64 of what cannot be compressed comes out a little larger than its bytes after gzip; measured. */
const GROWN = 1.035;
/** The rules around a part, after gzip; measured. */
const AROUND = 60;
/** A letter in the range of a face, after gzip; measured. */
const RANGE_ENTRY = 3;

/** Parts by what they depend on: everybody of a firm may have one face or one name in common, and every language of a card has. */
const part = keptOnceMade<Buffer[]>(ROOM_FOR.parts, (made) => made.reduce((sum, bytes) => sum + bytes.length, 0));

/**
 * What of the first screen a card's page has room to bring along, beside `bytes` that it has without (gzip, headers included): the
 * letters of its name first, then its pictures as fine as they fit; null where nothing does. Made in the compute pool; refused where
 * that is too busy.
 */
export async function firstScreen(card: PublishedCard, language: Language, bytes: number): Promise<FirstScreen | null> {
  const { organisationId: of, composition, photo } = card;
  const wants = firstScreenOf(composition, language, { photo: photo !== null });
  const type = wants.letters
    ? await part(`type ${wants.family} ${wants.letters}`, async () => [
        await compute('letters', { family: wants.family, text: wants.letters }, { of }),
      ])
    : [];
  const made = await Promise.all(
    wants.pictures.map(async ({ name, width, height }) => {
      const source = await sourceOf(card, name);
      if (!source) return { name, sizes: [] };
      const key = `${source.hash} ${width} ${height}`;
      return {
        name,
        sizes: await part(key, () => compute('previews', { bytes: source.bytes, width, height }, { of })),
      };
    }),
  );
  // One that is not to be had, or shines through, takes no other one's place.
  const had = made.filter(({ sizes }) => sizes.length > 0);
  return fitted(ROOM - bytes, type[0] ?? null, wants.letters, had);
}

async function sourceOf(card: PublishedCard, name: string): Promise<{ hash: string; bytes: Buffer } | null> {
  if (name === 'photo') return card.photo && { hash: card.photo.hash, bytes: pageBytes(card.photo) };
  const file = card.files.get(name);
  const bytes = file?.type === 'image' ? await files().get(file.hash) : null;
  return file && bytes ? { hash: file.hash, bytes } : null;
}

/** A page that will bring something along, before it is known what. */
export const NOTHING_YET: FirstScreen = { pictures: [], type: null };

const cost = (part: Buffer): number => Math.ceil(part.length * GROWN) + AROUND;

/** Parts that fit into so many bytes: the letters first, then as many pictures as fine as what is left allows, the largest kept longest. */
function fitted(
  room: number,
  type: Buffer | null,
  letters: string,
  pictures: { name: string; sizes: Buffer[] }[],
): FirstScreen | null {
  const withRange = type ? cost(type) + letters.length * RANGE_ENTRY : 0;
  const kept = type && withRange <= room ? { data: type.toString('base64'), letters } : null;
  const shown = finest(room - (kept ? withRange : 0), pictures);
  return kept || shown.length > 0 ? { pictures: shown, type: kept } : null;
}

function finest(room: number, pictures: { name: string; sizes: Buffer[] }[]): FirstScreen['pictures'] {
  for (let kept = pictures; kept.length > 0; kept = kept.slice(0, -1)) {
    const finenesses = Math.min(...kept.map(({ sizes }) => sizes.length));
    for (let fine = 0; fine < finenesses; fine += 1)
      if (kept.reduce((sum, { sizes }) => sum + cost(sizes[fine]!), 0) <= room)
        return kept.map(({ name, sizes }) => ({ name, data: sizes[fine]!.toString('base64') }));
  }
  return [];
}
