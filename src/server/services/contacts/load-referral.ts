import { createHash } from 'node:crypto';
import { Refusal } from '@/core/errors';
import { organisation } from '@/server/db/accounts/accounts';
import { referral, referralBy } from '@/server/db/contacts/contacts';
import { inTenant, outsideTenants } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import { UNLISTED, type PublishedCard } from '@/server/services/publishing/load-published';

/** What a link of a referral shows, as it was when the link was made; null where there is none. Error: PREVIEW_EXPIRED. */
export async function loadReferral(secret: string, clock: Clock): Promise<PublishedCard | null> {
  const entry = await outsideTenants((db) => referralBy(db, createHash('sha256').update(secret).digest()));
  if (!entry) return null;
  if (entry.ends_at.getTime() <= clock.now()) throw new Refusal({ code: 'PREVIEW_EXPIRED' });
  return inTenant(entry.organisation_id, async (tx) => {
    const row = await referral(tx, entry.id);
    const owner = await organisation(tx, entry.organisation_id);
    if (!row?.composition || !owner) return null;
    return {
      ...UNLISTED,
      // The contact keeps its UID over all its links, so that saving it again updates it.
      ...{ cardId: row.contact_id, organisationId: entry.organisation_id, version: 1, house: 0 },
      ...{ timeZone: owner.time_zone, legal: owner.links, composition: row.composition },
      publishedAt: row.at.toISOString(),
      files: new Map(),
      ...{ photo: null, logo: null, logoOnBand: null, logoByNight: null, isHouseLogo: false },
      inFile: { photo: null, logo: null },
    };
  });
}
