import type { Metadata } from 'next';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { readAct, readAudit } from '@/server/services/accounts/read-audit';
import { COMPANY } from '@/core/words';
import { AuditTrail } from '@/ui/company/audit-trail';
import { CompanyHead } from '@/ui/company/company-head';

export const metadata: Metadata = { title: COMPANY.turn.audit };

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

export default async function AuditPage({
  searchParams,
}: {
  searchParams: Promise<{ act?: string; who?: string; of?: string; before?: string }>;
}) {
  const actor = await actorOrSignIn();
  const asked = await searchParams;
  const filter = {
    act: readAct(asked.act),
    userId: asked.who && UUID.test(asked.who) ? asked.who : null,
    subjectId: asked.of ? asked.of.slice(0, 80) : null,
    before: asked.before && /^\d{1,18}$/.test(asked.before) ? asked.before : null,
  };
  const page = await shownOrNotFound(() => readAudit(actor, filter));
  return (
    <>
      <CompanyHead actor={actor} turn="audit" />
      <AuditTrail page={page} filter={filter} timeZone={actor.organisation.timeZone} />
    </>
  );
}
