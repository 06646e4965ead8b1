import type { Act, SubjectKind } from '@/core/access';
import type { Clock } from '@/server/clock';
import { insertAudit, noteChange, type AuditRow } from '@/server/db/accounts/audit';
import type { Tx } from '@/server/db/pool';

/** Saving is automatic: what is changed in one go is one line. */
const SAVED_AGAIN = new Set<Act>(['card.changed', 'record.changed', 'contact.changed']);

/** Writes down who did what to what, in the transaction that does it: either both are there or neither. */
export const recordAudit = (
  tx: Tx,
  /** Whoever did it; nobody of the organisation where whoever runs Heathland did. */
  actor: { organisationId: string; userId: string | null },
  act: Act,
  subject: { kind: SubjectKind; id: string },
  clock: Clock,
  data: AuditRow['data'] = {},
) =>
  (SAVED_AGAIN.has(act) ? noteChange : insertAudit)(tx, {
    organisation_id: actor.organisationId,
    at: new Date(clock.now()),
    user_id: actor.userId,
    act,
    subject_kind: subject.kind,
    subject_id: subject.id,
    data,
  });
