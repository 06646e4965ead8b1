import type { Metadata } from 'next';
import { opened } from '@/app/request/link';
import { ENTRY } from '@/core/words';
import { systemClock } from '@/server/clock';
import { readConfirmation } from '@/server/services/accounts/own-address';
import { ConfirmAddress } from '@/ui/entry/confirm-address';
import { LinkEnded } from '@/ui/entry/link-ended';

export const metadata: Metadata = { title: ENTRY.confirmTitle, referrer: 'no-referrer' };

export default async function ConfirmPage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  const { held, problem } = await opened(() => readConfirmation(token, systemClock));
  return held ? <ConfirmAddress token={token} email={held.email} /> : <LinkEnded problem={problem} again="/account" />;
}
