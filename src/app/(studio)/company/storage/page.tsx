import type { Metadata } from 'next';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { COMPANY } from '@/core/words';
import { readStorage } from '@/server/services/organisation/quota';
import { CompanyHead } from '@/ui/company/company-head';
import { StorageSheet } from '@/ui/company/storage-sheet';

export const metadata: Metadata = { title: COMPANY.turn.storage };

export default async function StoragePage() {
  const actor = await actorOrSignIn();
  const storage = await shownOrNotFound(() => readStorage(actor));
  return (
    <>
      <CompanyHead actor={actor} turn="storage" />
      <StorageSheet storage={storage} />
    </>
  );
}
