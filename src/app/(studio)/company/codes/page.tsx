import type { Metadata } from 'next';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { SPARES } from '@/core/words';
import { listSpares } from '@/server/services/hand-outs/spares';
import { CompanyHead } from '@/ui/company/company-head';
import { SpareCodes } from '@/ui/company/spare-codes';

export const metadata: Metadata = { title: SPARES.turn };

export default async function SpareCodesPage() {
  const actor = await actorOrSignIn();
  const opened = await shownOrNotFound(() => listSpares(actor));
  return (
    <>
      <CompanyHead actor={actor} turn="codes" />
      <SpareCodes opened={opened} zone={actor.organisation.timeZone} />
    </>
  );
}
