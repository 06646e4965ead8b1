import { mayReach } from '@/core/access';
import { readCode } from '@/core/address';
import { Refusal } from '@/core/errors';
import type { Composition } from '@/core/card';
import { contentText } from '@/core/code';
import { applyHouseStyle } from '@/core/house';
import { LIMITS } from '@/core/limits';
import { defaultLabel, shownValue } from '@/core/record';
import type { ShownDesign } from '@/core/shown';
import { readContactFile } from '@/core/vcard';
import { CODES } from '@/core/words';
import { compute } from '@/server/compute';
import { card } from '@/server/db/cards/cards';
import { handOutByCode, type HandOutRow } from '@/server/db/hand-outs/hand-outs';
import { latestRevision } from '@/server/db/cards/revisions';
import { inTenant } from '@/server/db/pool';
import { publicUrlOf } from '@/server/env';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';
import { houseOf } from '@/server/services/house/house-style';
import { textOf } from './drawing';
import { linkOf } from './own';

/** A code of ours by the link that it holds: `/h/CODE` at our public address, whatever its letters' case. */
function codeIn(text: string, publicUrl: string): string | null {
  const [, path] = text.toLowerCase().split(publicUrl.toLowerCase());
  const [, code] = /^\/h\/([0-9a-z-]{8,11})(?:[./?#].*)?$/.exec(path ?? '') ?? [];
  return code ? readCode(code) : null;
}

/**
 * Tests a printed design: a picture, drawing or PDF of it. What is found is held against our hand-outs: whose it is, and whether what it holds is still current.
 * Errors: FILE_TOO_LARGE, DESIGN_UNREADABLE, DESIGN_LOCKED, TOO_BUSY, TOO_LABORIOUS.
 */
export async function testDesign(actor: Actor, bytes: Buffer): Promise<ShownDesign> {
  authorise(actor, 'hand-out.read');
  if (bytes.length > LIMITS.designBytes) throw new Refusal({ code: 'FILE_TOO_LARGE', limitBytes: LIMITS.designBytes });
  const design = await compute('design', { bytes, repair: true }, { of: actor.organisationId });
  const codes = await Promise.all(
    design.codes.map(async (found) => ({ ...found, ours: await oursOf(actor, found.report.text) })),
  );
  return { ...design, codes };
}

async function oursOf(actor: Actor, text: string): Promise<ShownDesign['codes'][number]['ours']> {
  const code = codeIn(text, publicUrlOf(actor.organisationId));
  return inTenant(actor, async (tx) => {
    const row = await handOutByCode(tx, code ? { code } : { frozen: Buffer.from(text).toString('base64') });
    const owner = row && (await card(tx, row.card_id));
    if (!row || !owner || !mayReach(actor, 'hand-out.read', owner.record_id)) return null;
    const now = await latestRevision(tx, row.card_id);
    const live = row.frozen === null;
    const gone =
      live || !now
        ? []
        : goneFrom(row, text, applyHouseStyle(now.composition, (await houseOf(tx, owner))?.style ?? null));
    return {
      ...{ id: row.id, cardId: row.card_id, placement: row.placement, live },
      state: owner.state,
      same: textOf(row) === text,
      changedAt: gone.length > 0 ? now!.published_at.toISOString() : null,
      gone,
    };
  });
}

/** What a frozen code holds that it would not hold today: labels of details of a contact, or what it makes a phone do. */
function goneFrom(row: HandOutRow, text: string, composition: Composition): string[] {
  const content = row.content ?? { what: 'contact' as const, form: 'vCard 3.0' as const, link: false };
  const today = contentText(content, composition, { link: linkOf(row) });
  if (today.ok && today.value === text) return [];
  if (content.what !== 'contact') return [CODES.does[content.what]];
  const details = (contact: string) => readContactFile(contact, 'GB').contacts[0]?.record.details ?? [];
  const left = today.ok ? details(today.value) : [];
  const gone = details(text).filter(
    (detail) => !left.some((other) => other.kind === detail.kind && shownValue(other) === shownValue(detail)),
  );
  // What was added since is not in it either.
  return gone.length > 0 ? [...new Set(gone.map(defaultLabel))] : [CODES.more];
}
