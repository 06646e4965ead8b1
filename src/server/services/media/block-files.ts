import { recordsWithin } from '@/core/access';
import { filesOf, type Composition, type PageParts } from '@/core/card';
import { Refusal } from '@/core/errors';
import { shownOnCardOf } from '@/server/db/cards/cards';
import { filmsBy } from '@/server/db/media/films';
import type { Tx } from '@/server/db/pool';
import { gaveIt, picturesBy } from '@/server/db/media/pictures';
import type { Actor } from '@/server/services/accounts/actor';
import type { PublishedSignature } from '@/server/services/hand-outs/signature-parts';

/**
 * A file that blocks show: where its bytes lie in the store, what they are, and how many; null of pictures, which are read whole. Of a
 * picture also its lighter form, where that was made by then.
 */
export type BlockFile = { hash: string; type: string; bytes: number | null; webp?: string | null };

/** The files among these hashes that the organisation has, by the hash that blocks name them by. */
export async function blockFiles(tx: Tx, hashes: Set<string>): Promise<Map<string, BlockFile>> {
  const wanted = [...hashes];
  const found = new Map<string, BlockFile>();
  for (const { hash, page_hash, page_webp } of await picturesBy(tx, wanted))
    found.set(hash, { hash: page_hash, type: 'image', bytes: null, webp: page_webp });
  for (const { hash, type, bytes } of await filmsBy(tx, wanted)) found.set(hash, { hash, type, bytes });
  return found;
}

/** The parts of a card that name files. */
type NamingFiles = Pick<PageParts, 'blocks' | 'opens' | 'look'>;

/** What a card shows besides face and logo of its page: the files of its blocks, and the pictures of its signature. */
export const filesOfComposition = (
  tx: Tx,
  composition: Composition,
  signature: Pick<PublishedSignature, 'photo' | 'logo'> | null = null,
): Promise<Map<string, BlockFile>> => {
  const signed = [signature?.photo, signature?.logo].flatMap((each) => each?.hash ?? []);
  return blockFiles(tx, new Set([...filesOf(composition), ...signed]));
};

/** The hashes that parts of a page name and the organisation does not have: of another one, or erased. */
export async function missingFiles(tx: Tx, parts: NamingFiles): Promise<string[]> {
  const wanted = filesOf(parts);
  const found = await blockFiles(tx, wanted);
  return [...wanted].filter((hash) => !found.has(hash));
}

/** Error: FILE_GONE where a block names a file that the organisation does not have. */
export async function refuseMissingFiles(tx: Tx, parts: NamingFiles): Promise<void> {
  if ((await missingFiles(tx, parts)).length > 0) throw new Refusal({ code: 'FILE_GONE' });
}

/** Who does not reach everybody shows what they gave, or what stands on a card that they reach already, and no other file. Error: FILE_GONE. */
export async function refuseOthersFiles(tx: Tx, actor: Actor, parts: NamingFiles): Promise<void> {
  const within = recordsWithin(actor, 'card.write');
  if (within === 'all') return;
  const wanted = [...filesOf(parts)];
  const given = [...(await picturesBy(tx, wanted)), ...(await filmsBy(tx, wanted))];
  const own = new Set(given.filter((row) => gaveIt(row, actor.userId)).map(({ hash }) => hash));
  for (const hash of wanted)
    if (!own.has(hash) && !(await shownOnCardOf(tx, within, hash))) throw new Refusal({ code: 'FILE_GONE' });
}
