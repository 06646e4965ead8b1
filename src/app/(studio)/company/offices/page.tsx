import type { Metadata } from 'next';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { COMPANY } from '@/core/words';
import { listOffices } from '@/server/services/house/offices';
import { CompanyHead } from '@/ui/company/company-head';
import { Offices } from '@/ui/company/offices';

export const metadata: Metadata = { title: COMPANY.turn.offices };

export default async function OfficesPage() {
  const actor = await actorOrSignIn();
  const offices = await shownOrNotFound(() => listOffices(actor));
  const { country, timeZone } = actor.organisation;
  return (
    <>
      <CompanyHead actor={actor} turn="offices" />
      <Offices offices={offices} country={country} zone={timeZone} />
    </>
  );
}
