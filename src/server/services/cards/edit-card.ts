import { composeDraft, reconcile, type Draft } from '@/core/card';
import { reachOf } from '@/core/access';
import { orRefuse, Refusal, type Problem } from '@/core/errors';
import { judgeLook, type Refused } from '@/core/house';
import { card, updateCard, type CardRow } from '@/server/db/cards/cards';
import { inTenant, type Tx } from '@/server/db/pool';
import { record } from '@/server/db/cards/records';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { houseOf } from '@/server/services/house/house-style';
import { refuseOwned } from '@/server/services/house/owners';
import { refuseMissingFiles, refuseOthersFiles } from '@/server/services/media/block-files';

/**
 * Saves a card's lines, blocks and words over the version that the editor saw. The record stays as it is.
 * Errors: NOT_FOUND, CARD_CHANGED with today's version, FILE_GONE, LOCKED and the others of a look that is not the editor's to
 * change, and those of a wording that cannot be read.
 */
export async function saveCard(
  actor: Actor,
  id: string,
  input: { baseVersion: number } & Pick<Draft, 'lines' | 'audience'> & Partial<Draft>,
  clock: Clock,
): Promise<{ version: number }> {
  const reach = authorise(actor, 'card.write');
  return inTenant(actor, async (tx) => {
    const row = await card(tx, id);
    const person = row && (await record(tx, row.record_id));
    if (!row || !person) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'card.write', row.record_id);
    const lines = reconcile(input.lines, person.body);
    const {
      blocks = row.blocks,
      opens = row.opens,
      words = row.words,
      look = row.look,
      language = row.language,
    } = input;
    orRefuse(composeDraft(person.body, { lines, language, blocks, opens, words, look }, actor.organisation.country));
    const was = { lines: reconcile(row.lines, person.body), words: row.words };
    const [before, after] = [was, { lines, words }].map((of) => ({ record: person.body, card: of }));
    await refuseOwned(tx, actor, row, before!, after!);
    const mayOverride = reachOf(actor.role, 'look.override') === 'all';
    const { refused, overridden } = judgeLook(row.look, look, (await houseOf(tx, row))?.style ?? null, mayOverride);
    if (refused[0]) throw new Refusal(await refusalOf(tx, row, refused[0]));
    await refuseMissingFiles(tx, { blocks, opens, look });
    if (reach !== 'all') await refuseOthersFiles(tx, actor, { blocks, opens, look });
    const written = await updateCard(tx, id, input.baseVersion, {
      lines,
      audience: input.audience,
      language,
      blocks,
      opens,
      words,
      look,
      updated_at: new Date(clock.now()),
    });
    if (!written) throw new Refusal({ code: 'CARD_CHANGED', version: row.version });
    const version = input.baseVersion + 1;
    if (overridden.length > 0)
      await recordAudit(tx, actor, 'look.overridden', { kind: 'card', id }, clock, { parts: overridden.join(', ') });
    await recordAudit(tx, actor, 'card.changed', { kind: 'card', id }, clock, { version });
    return { version };
  });
}

/** A refused change of a look as a problem, with the reason that its lock gives. */
async function refusalOf(tx: Tx, row: CardRow, { part, what }: Refused): Promise<Problem> {
  if (what === 'override') return { code: 'OVERRIDE_NOT_ALLOWED' };
  if (what === 'layout') return { code: 'LAYOUT_NOT_ALLOWED' };
  return { code: 'LOCKED', part, reason: (await houseOf(tx, row))?.style.locks[part] ?? '' };
}
