import type { Metadata } from 'next';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { COMPANY } from '@/core/words';
import { audiencesToEdit } from '@/server/services/organisation/audiences';
import { Audiences } from '@/ui/company/audiences';
import { CompanyHead } from '@/ui/company/company-head';

export const metadata: Metadata = { title: COMPANY.turn.audiences };

export default async function AudiencesPage() {
  const actor = await actorOrSignIn();
  const audiences = await shownOrNotFound(() => audiencesToEdit(actor));
  return (
    <>
      <CompanyHead actor={actor} turn="audiences" />
      <Audiences audiences={audiences} />
    </>
  );
}
