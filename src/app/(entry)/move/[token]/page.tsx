import type { Metadata } from 'next';
import { opened } from '@/app/request/link';
import { ENTRY } from '@/core/words';
import { systemClock } from '@/server/clock';
import { readMove } from '@/server/services/accounts/own-address';
import { LinkEnded } from '@/ui/entry/link-ended';
import { AgreeToMove } from '@/ui/entry/agree-to-move';

export const metadata: Metadata = { title: ENTRY.moveTitle, referrer: 'no-referrer' };

export default async function MovePage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  const { held, problem } = await opened(() => readMove(token, systemClock));
  return held ? <AgreeToMove token={token} {...held} /> : <LinkEnded problem={problem} again="/account" />;
}
