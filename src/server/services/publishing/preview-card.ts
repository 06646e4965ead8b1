import { createHash, randomBytes } from 'node:crypto';
import { previewFrom } from '@/core/address';
import { nearOf, type Near } from '@/core/code';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { drawSymbol, liveCodeText, symbolFor } from '@/core/qr';
import { organisation } from '@/server/db/accounts/accounts';
import { card, versionsOf } from '@/server/db/cards/cards';
import { houseSeal } from '@/server/db/house/house';
import { deletePreviewsOf, insertPreview, previewBy } from '@/server/db/cards/directory';
import { inTenant, outsideTenants } from '@/server/db/pool';
import { record } from '@/server/db/cards/records';
import { publicUrlOf } from '@/server/env';
import { systemClock, type Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { filesOfComposition } from '@/server/services/media/block-files';
import { composeCard } from './compose-card';
import { namedPictures, readPictures, UNLISTED, type PublishedCard } from './load-published';

const hashOf = (secret: string): Buffer => createHash('sha256').update(secret).digest();

/**
 * A private address under which the card can be looked at as it stands now, on one's own phone, for a day; earlier ones of
 * the card end. `svg` is its code, `near` from where alone it is reached. Error: NOT_FOUND.
 */
export async function makePreview(
  actor: Actor,
  id: string,
  clock: Clock,
): Promise<{ url: string; svg: string; expires: string; near: Near | null }> {
  authorise(actor, 'card.write');
  const secret = previewFrom(randomBytes(16));
  const expires = new Date(clock.now() + LIMITS.previewHours * 3_600_000);
  await inTenant(actor, async (tx) => {
    const row = await card(tx, id);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'card.write', row.record_id);
    await deletePreviewsOf(tx, id);
    await insertPreview(tx, {
      token_hash: hashOf(secret),
      card_id: id,
      organisation_id: actor.organisationId,
      expires_at: expires,
    });
    await recordAudit(tx, actor, 'preview.made', { kind: 'card', id }, clock);
  });
  const url = `${publicUrlOf(actor.organisationId)}/p/${secret}`;
  const svg = drawSymbol(symbolFor(liveCodeText(url)), { title: url });
  return { url, svg, expires: expires.toISOString(), near: nearOf(url) };
}

/** Drafts composed lately, by their card, with the versions that they were composed from: a page asks for a dozen pictures after itself. */
const composed = new Map<string, { seal: string; card: PublishedCard }>();
const MOST_COMPOSED = 200;

/**
 * The card that a preview shows, composed from its draft as it is now: the very same object as before where nothing has changed. Null
 * where there is none; error: PREVIEW_EXPIRED.
 */
export async function loadPreview(secret: string, clock: Clock = systemClock): Promise<PublishedCard | null> {
  const entry = await outsideTenants((db) => previewBy(db, hashOf(secret)));
  if (!entry) return null;
  if (entry.expires_at.getTime() <= clock.now()) throw new Refusal({ code: 'PREVIEW_EXPIRED' });
  const found = await inTenant(entry.organisation_id, async (tx) => {
    const versions = await versionsOf(tx, entry.card_id);
    const seal = versions ? `${versions.card} ${versions.record} ${await houseSeal(tx, versions.record_id)}` : '';
    const known = composed.get(entry.card_id);
    if (known?.seal === seal) return { known: known.card };
    const row = await card(tx, entry.card_id);
    const person = row && (await record(tx, row.record_id));
    const owner = await organisation(tx, entry.organisation_id);
    if (!row || !person || !owner) return null;
    const body = person.body;
    const { shown: composition, house } = await composeCard(tx, row, body, owner.country);
    const named = await namedPictures(tx, composition, house?.style ?? null);
    const draft = {
      ...UNLISTED,
      cardId: entry.card_id,
      organisationId: entry.organisation_id,
      version: row.version,
      timeZone: owner.time_zone,
      composition,
      publishedAt: row.updated_at.toISOString(),
      files: await filesOfComposition(tx, composition),
      legal: owner.links,
    };
    return { known: null, seal, named, draft };
  });
  if (!found) return null;
  if (found.known) return found.known;
  const shown: PublishedCard = { ...found.draft, ...(await readPictures(found.named)) };
  composed.delete(entry.card_id);
  if (composed.size >= MOST_COMPOSED) composed.delete(composed.keys().next().value!);
  composed.set(entry.card_id, { seal: found.seal, card: shown });
  return shown;
}
