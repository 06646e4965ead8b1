import { draftOf, detailOf, detailOn, NAME_LINE, nameOn, reconcile } from '@/core/card';
import { orRefuse, Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import type { PersonRecord } from '@/core/record';
import { cardForUpdate, updateCard } from '@/server/db/cards/cards';
import { inTenant } from '@/server/db/pool';
import { record } from '@/server/db/cards/records';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { refuseOwned } from '@/server/services/house/owners';
import { writeRecord } from '@/server/services/records/write-record';

/**
 * Adopts a card's own wording, or a line that stands on the card alone, into the record: both are changed in one act. Answers
 * with the versions then. Errors: NOT_FOUND, CARD_CHANGED, RECORD_CHANGED, TOO_MANY_DETAILS, those of a wording that cannot be read.
 */
export async function adoptWording(
  actor: Actor,
  id: string,
  input: { baseVersion: number; line: string },
  clock: Clock,
): Promise<{ version: number; recordVersion: number }> {
  authorise(actor, 'record.write');
  return inTenant(actor, async (tx) => {
    const row = await cardForUpdate(tx, id);
    const person = row && (await record(tx, row.record_id));
    if (!row || !person) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'record.write', row.record_id);
    if (row.version !== input.baseVersion) throw new Refusal({ code: 'CARD_CHANGED', version: row.version });
    const body = person.body;
    const lines = reconcile(row.lines, body);
    const line = lines.find(({ detail }) => detail === input.line);
    if (!line || (line.wording === null && !line.own)) throw new Refusal({ code: 'NOT_FOUND' });
    let next: PersonRecord;
    if (line.detail === NAME_LINE) next = { ...body, name: { ...body.name, ...nameOn(body, { ...line, part: null }) } };
    else {
      const detail = detailOf(line, body);
      if (!detail) throw new Refusal({ code: 'NOT_FOUND' });
      const worded = orRefuse(detailOn({ ...line, part: null }, detail, actor.organisation.country));
      if (line.own && body.details.length >= LIMITS.details)
        throw new Refusal({ code: 'TOO_MANY_DETAILS', limit: LIMITS.details });
      next = {
        ...body,
        details: line.own
          ? [...body.details, worded]
          : body.details.map((each) => (each.id === line.detail ? { ...each, ...worded } : each)),
      };
    }
    await refuseOwned(tx, actor, row, { record: body }, { record: next });
    if (!(await writeRecord(tx, row.record_id, person.version, next, clock)))
      throw new Refusal({ code: 'RECORD_CHANGED', version: person.version });
    await updateCard(tx, id, row.version, {
      ...draftOf(row),
      lines: lines.map((each) => (each === line ? { ...each, wording: null, own: null } : each)),
      updated_at: new Date(clock.now()),
    });
    await recordAudit(tx, actor, 'wording.adopted', { kind: 'record', id: row.record_id }, clock, {
      version: person.version + 1,
    });
    return { version: row.version + 1, recordVersion: person.version + 1 };
  });
}
