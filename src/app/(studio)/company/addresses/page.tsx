import type { Metadata } from 'next';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { COMPANY } from '@/core/words';
import { readPrefix } from '@/server/services/publishing/address-prefix';
import { Addresses } from '@/ui/company/addresses';
import { CompanyHead } from '@/ui/company/company-head';

export const metadata: Metadata = { title: COMPANY.turn.addresses };

export default async function AddressesPage() {
  const actor = await actorOrSignIn();
  const prefix = await shownOrNotFound(() => readPrefix(actor));
  return (
    <>
      <CompanyHead actor={actor} turn="addresses" />
      <Addresses {...prefix} />
    </>
  );
}
