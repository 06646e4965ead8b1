import { CompositionSchema, type Composition } from '@/core/card';
import { organisation } from '@/server/db/accounts';
import { card, latestRevision } from '@/server/db/cards';
import { byAddress, byCode, currentAddress, directoryVersion } from '@/server/db/directory';
import { inTenant, outsideTenants } from '@/server/db/pool';
import { picture } from '@/server/db/records';
import { files } from '@/server/files';

/** All that an answer to a recipient is made from. `version` counts up whenever one of these changes. */
export type PublishedCard = {
  cardId: string;
  organisationId: string;
  version: number;
  handOutId: string | null;
  state: 'published' | 'resting' | 'retired';
  address: string;
  timeZone: string;
  composition: Composition;
  revision: number;
  publishedAt: string;
  /** Hash of the picture shown, and the photo's bytes at both sizes. */
  photo: { hash: string; page: Buffer; file: Buffer } | null;
};

/** What a public address or a hand-out code leads to; null where nothing was ever published. */
export async function loadPublished(key: { address: string } | { code: string }): Promise<PublishedCard | null> {
  const entry = await outsideTenants((db) => ('address' in key ? byAddress(db, key.address) : byCode(db, key.code)));
  if (!entry) return null;
  return inTenant(entry.organisation_id, async (tx) => {
    const row = await card(tx, entry.card_id);
    const revision = await latestRevision(tx, entry.card_id);
    const owner = await organisation(tx, entry.organisation_id);
    const address = await currentAddress(tx, entry.card_id);
    if (!row || !revision || !owner || !address || row.state === 'draft') return null;
    const composition = CompositionSchema.parse(revision.composition);
    return {
      cardId: entry.card_id,
      organisationId: entry.organisation_id,
      version: entry.version,
      handOutId: entry.hand_out_id,
      state: row.state,
      address,
      timeZone: owner.time_zone,
      composition,
      revision: revision.number,
      publishedAt: revision.published_at.toISOString(),
      photo: await photoOf(composition, (hash) => picture(tx, hash)),
    };
  });
}

async function photoOf(
  composition: Composition,
  find: (hash: string) => Promise<{ page_hash: string; file_hash: string } | undefined>,
) {
  const line = composition.lines.find(({ detail }) => detail.kind === 'photo');
  if (line?.detail.kind !== 'photo') return null;
  const row = await find(line.detail.picture);
  const [page, file] = row ? await Promise.all([files().get(row.page_hash), files().get(row.file_hash)]) : [null, null];
  return row && page && file ? { hash: row.page_hash, page, file } : null;
}

/** Today's version of a card, for answers that write no event. */
export const publishedVersion = (cardId: string): Promise<number | undefined> =>
  outsideTenants((db) => directoryVersion(db, cardId));
