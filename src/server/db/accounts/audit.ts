import type { Act, SubjectKind } from '@/core/access';
import type { Tx } from '../pool';

/** One line of the audit trail. `data` holds numbers, ids and words of ours, never a person's details. */
export type AuditRow = {
  organisation_id: string;
  at: Date;
  /** Nobody where whoever runs Heathland did it. */
  user_id: string | null;
  act: Act;
  subject_kind: SubjectKind;
  subject_id: string;
  data: Record<string, string | number | boolean | null>;
};
export type ReadAuditRow = AuditRow & { id: string; who: string | null };

export const insertAudits = (tx: Tx, rows: AuditRow[]) =>
  tx('audit_trail').insert(rows.map((row) => ({ ...row, data: JSON.stringify(row.data) })));

/** Writes changes down, each into the line before it where the same member goes on changing the same. */
export const noteChanges = (tx: Tx, rows: AuditRow[]) =>
  tx.raw(
    `SELECT note_change(act, subject_kind, subject_id, user_id, at, data)
     FROM json_to_recordset(?::json) AS of(act text, subject_kind text, subject_id text, user_id uuid, at timestamptz, data jsonb)`,
    [JSON.stringify(rows)],
  );

/** The latest lines, newest first, with who it was; narrowed by act, member or subject. `before` is the id of an earlier page's last line. */
export const auditTrail = async (
  tx: Tx,
  wanted: { act: Act | null; userId: string | null; subjectId: string | null; before: string | null; most: number },
): Promise<ReadAuditRow[]> =>
  tx('audit_trail as a')
    .leftJoin('users as u', 'u.id', 'a.user_id')
    .modify((query) => {
      if (wanted.act) query.where('a.act', wanted.act);
      if (wanted.userId) query.where('a.user_id', wanted.userId);
      if (wanted.subjectId) query.where('a.subject_id', wanted.subjectId);
      if (wanted.before) query.where('a.id', '<', wanted.before);
    })
    .orderBy('a.id', 'desc')
    .limit(wanted.most)
    .select('a.*', 'u.name as who');
