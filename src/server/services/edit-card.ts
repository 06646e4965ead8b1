import { compose, reconcile, type Draft } from '@/core/card';
import { orRefuse, Refusal } from '@/core/errors';
import { card, updateCard } from '@/server/db/cards';
import { inTenant } from '@/server/db/pool';
import { record } from '@/server/db/records';
import type { Clock } from '@/server/clock';
import type { Actor } from './actor';
import { writeDown } from './audit';
import { authorise, authoriseFor } from './authorise';
import { refuseMissingFiles, refuseOthersFiles } from './block-files';

/**
 * Saves a card's lines, blocks and words over the version that the editor saw. The record stays as it is.
 * Errors: NOT_FOUND, CARD_CHANGED with today's version, and FILE_GONE, and those of a wording that cannot be read.
 */
export async function saveCard(
  actor: Actor,
  id: string,
  input: { baseVersion: number } & Pick<Draft, 'lines' | 'audience'> & Partial<Draft>,
  clock: Clock,
): Promise<{ version: number }> {
  const reach = authorise(actor, 'card.write');
  return inTenant(actor.organisationId, async (tx) => {
    const row = await card(tx, id);
    const person = row && (await record(tx, row.record_id));
    if (!row || !person) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'card.write', row.record_id);
    const lines = reconcile(input.lines, person.body);
    const { blocks = row.blocks, opens = row.opens, words = row.words, language = row.language } = input;
    orRefuse(compose(person.body, lines, actor.organisation.country, language, { blocks, opens, words }));
    await refuseMissingFiles(tx, { blocks, opens });
    if (reach === 'own') await refuseOthersFiles(tx, actor, { blocks, opens });
    const written = await updateCard(tx, id, input.baseVersion, {
      lines,
      audience: input.audience,
      language,
      blocks,
      opens,
      words,
      updated_at: new Date(clock.now()),
    });
    if (!written) throw new Refusal({ code: 'CARD_CHANGED', version: row.version });
    const version = input.baseVersion + 1;
    await writeDown(tx, actor, 'card.changed', { kind: 'card', id }, clock, { version });
    return { version };
  });
}
