import type { Act, SubjectKind } from '@/core/access';
import type { Clock } from '@/server/clock';
import { insertAudits, noteChanges, type AuditRow } from '@/server/db/accounts/audit';
import type { Tx } from '@/server/db/pool';

/** Saving is automatic: what is changed in one go is one line. */
const SAVED_AGAIN = new Set<Act>(['card.changed', 'record.changed', 'contact.changed']);

/** Writes down who did what to what, in the transaction that does it: either both are there or neither. */
export const recordAudit = (
  tx: Tx,
  actor: Doer,
  act: Act,
  subject: { kind: SubjectKind; id: string },
  clock: Clock,
  data: AuditRow['data'] = {},
) => recordAudits(tx, actor, act, subject.kind, [{ id: subject.id, data }], clock);

/** Whoever did it; nobody of the organisation where whoever runs Heathland did. */
type Doer = { organisationId: string; userId: string | null };

/** The same act on several subjects of one kind. */
export async function recordAudits(
  tx: Tx,
  actor: Doer,
  act: Act,
  kind: SubjectKind,
  subjects: { id: string; data: AuditRow['data'] }[],
  clock: Clock,
): Promise<void> {
  if (subjects.length === 0) return;
  const at = new Date(clock.now());
  const rows = subjects.map(({ id, data }) => ({
    ...{ organisation_id: actor.organisationId, at, user_id: actor.userId },
    ...{ act, subject_kind: kind, subject_id: id, data },
  }));
  await (SAVED_AGAIN.has(act) ? noteChanges : insertAudits)(tx, rows);
}
