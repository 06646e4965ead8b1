import { ACTS, ROLES, type Act, type SubjectKind } from '@/core/access';
import { COMPANY, ENTRY } from '@/core/words';
import { auditTrail, type ReadAuditRow } from '@/server/db/accounts/audit';
import { namedCards } from '@/server/db/cards/cards';
import { namedHandOuts } from '@/server/db/hand-outs/hand-outs';
import { membersOfRoles, userNames } from '@/server/db/accounts/accounts';
import { inTenant, type Tx } from '@/server/db/pool';
import { recordNames } from '@/server/db/cards/records';
import type { Actor } from './actor';
import { authorise } from './authorise';

export type AuditLine = {
  id: string;
  at: string;
  who: string;
  act: Act;
  subject: { kind: SubjectKind; id: string; name: string; href: string | null };
  data: Record<string, string | number | boolean | null>;
};
export type AuditFilter = { act: Act | null; userId: string | null; subjectId: string | null; before: string | null };
export type AuditPage = { lines: AuditLine[]; next: string | null; members: { id: string; name: string }[] };

const PAGE = 50;
const NO_HOLDERS = ROLES.filter((role) => role !== 'holder');

/** The audit trail, newest first, a page at a time, narrowed as asked. Error: NOT_ALLOWED. */
export async function readAudit(actor: Actor, filter: AuditFilter): Promise<AuditPage> {
  authorise(actor, 'audit.read');
  return inTenant(actor, async (tx) => {
    const rows = await auditTrail(tx, { ...filter, most: PAGE + 1 });
    const shown = rows.slice(0, PAGE);
    const named = shown.flatMap(({ subject_kind, subject_id }) => (subject_kind === 'member' ? subject_id : []));
    if (filter.userId) named.push(filter.userId);
    const users = await userNames(tx, [...new Set(named.filter((id) => UUID.test(id)))]);
    const nameOf = await names(tx, actor, shown, new Map(users.map((row) => [row.id, row.name])));
    return {
      lines: shown.map((row) => ({
        id: row.id,
        at: row.at.toISOString(),
        who: row.who === '' ? COMPANY.some.member : (row.who ?? ENTRY.product),
        act: row.act,
        subject: { kind: row.subject_kind, id: row.subject_id, ...nameOf(row.subject_kind, row.subject_id) },
        data: row.data,
      })),
      next: rows.length > PAGE ? rows[PAGE - 1]!.id : null,
      // Holders are too many to choose from: the one whose lines these are is among them.
      members: [
        ...(await membersOfRoles(tx, NO_HOLDERS, true)),
        ...users.filter(({ id }) => id === filter.userId),
      ].filter(({ id }, at, all) => all.findIndex((each) => each.id === id) === at),
    };
  });
}

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/** Names of what these lines are of. They are those of today: the trail itself keeps ids and no details. */
async function names(tx: Tx, actor: Actor, rows: ReadAuditRow[], users: Map<string, string>) {
  const ids = (kind: SubjectKind) => [
    ...new Set(rows.flatMap((row) => (row.subject_kind === kind && UUID.test(row.subject_id) ? row.subject_id : []))),
  ];
  const people = new Map((await recordNames(tx, ids('record'))).map((row) => [row.id, row.written_name]));
  const cardNames = new Map(
    (await namedCards(tx, ids('card'))).map((row) => [row.id, `${row.written_name} · ${row.audience}`]),
  );
  const outs = new Map((await namedHandOuts(tx, ids('hand-out'))).map((row) => [row.id, row]));
  return (kind: SubjectKind, id: string): { name: string; href: string | null } => {
    const out = outs.get(id);
    if (kind === 'record')
      return { name: people.get(id) ?? COMPANY.some.record, href: people.has(id) ? `/people/${id}` : null };
    if (kind === 'card')
      return { name: cardNames.get(id) ?? COMPANY.some.card, href: cardNames.has(id) ? `/cards/${id}` : null };
    if (kind === 'hand-out')
      return {
        name: out ? `${out.placement} · ${out.written_name} · ${out.audience}` : COMPANY.some['hand-out'],
        href: out ? `/cards/${out.card_id}/hand-outs` : null,
      };
    if (kind === 'member') return { name: users.get(id) ?? COMPANY.some.member, href: null };
    if (kind === 'import') return { name: COMPANY.some.import, href: `/imports/${id}` };
    if (kind === 'roster') return { name: COMPANY.some.roster, href: `/roster/${id}` };
    if (kind === 'team') return { name: COMPANY.some.team, href: null };
    if (kind === 'job') return { name: COMPANY.some.job, href: `/jobs/${id}` };
    return { name: kind === 'organisation' ? actor.organisation.name : COMPANY.some.picture, href: null };
  };
}

/** An act as a filter names it, or null. */
export const readAct = (raw: string | undefined): Act | null => ACTS.find((act) => act === raw) ?? null;
