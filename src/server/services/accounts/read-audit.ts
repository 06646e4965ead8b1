import { ACTS, type Act, type SubjectKind } from '@/core/access';
import { COMPANY, ENTRY } from '@/core/words';
import { auditTrail } from '@/server/db/audit';
import { cards } from '@/server/db/cards';
import { handOuts } from '@/server/db/hand-outs';
import { members } from '@/server/db/accounts';
import { inTenant, type Tx } from '@/server/db/pool';
import { recordNames } from '@/server/db/records';
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

const PAGE = 100;

/** The audit trail, newest first, a page at a time, narrowed as asked. Error: NOT_ALLOWED. */
export async function readAudit(actor: Actor, filter: AuditFilter): Promise<AuditPage> {
  authorise(actor, 'audit.read');
  return inTenant(actor.organisationId, async (tx) => {
    const rows = await auditTrail(tx, { ...filter, most: PAGE + 1 });
    const nameOf = await names(tx, actor);
    return {
      lines: rows.slice(0, PAGE).map((row) => ({
        id: row.id,
        at: row.at.toISOString(),
        who: row.who === '' ? COMPANY.some.member : (row.who ?? ENTRY.product),
        act: row.act,
        subject: { kind: row.subject_kind, id: row.subject_id, ...nameOf(row.subject_kind, row.subject_id) },
        data: row.data,
      })),
      next: rows.length > PAGE ? rows[PAGE - 1]!.id : null,
      members: (await members(tx, actor.organisationId)).map(({ id, name }) => ({ id, name })),
    };
  });
}

/** Names are those of today: the trail itself keeps ids and no details. */
async function names(tx: Tx, actor: Actor) {
  const people = new Map((await recordNames(tx)).map((row) => [row.id, row.written_name]));
  const cardNames = new Map(
    (await cards(tx)).map((row) => [row.id, `${people.get(row.record_id) ?? ''} · ${row.audience}`]),
  );
  const outs = new Map((await handOuts(tx)).map((row) => [row.id, row]));
  const users = new Map((await members(tx, actor.organisationId)).map((row) => [row.id, row.name]));
  return (kind: SubjectKind, id: string): { name: string; href: string | null } => {
    const out = outs.get(id);
    if (kind === 'record')
      return { name: people.get(id) ?? COMPANY.some.record, href: people.has(id) ? `/people/${id}` : null };
    if (kind === 'card')
      return { name: cardNames.get(id) ?? COMPANY.some.card, href: cardNames.has(id) ? `/cards/${id}` : null };
    if (kind === 'hand-out')
      return {
        name: out ? `${out.placement} · ${cardNames.get(out.card_id) ?? ''}` : COMPANY.some['hand-out'],
        href: out ? `/cards/${out.card_id}/hand-outs` : null,
      };
    if (kind === 'member') return { name: users.get(id) ?? COMPANY.some.member, href: null };
    if (kind === 'import') return { name: COMPANY.some.import, href: `/imports/${id}` };
    if (kind === 'job') return { name: COMPANY.some.job, href: `/jobs/${id}` };
    return { name: kind === 'organisation' ? actor.organisation.name : COMPANY.some.picture, href: null };
  };
}

/** An act as a filter names it, or null. */
export const readAct = (raw: string | undefined): Act | null => ACTS.find((act) => act === raw) ?? null;
