import type { Metadata } from 'next';
import { opened } from '@/app/request/link';
import { ENTRY } from '@/core/words';
import { systemClock } from '@/server/clock';
import { readWelcome } from '@/server/services/accounts/welcome';
import { LinkEnded } from '@/ui/entry/link-ended';
import { WelcomeForm } from '@/ui/entry/welcome';

export const metadata: Metadata = { title: ENTRY.product, referrer: 'no-referrer' };

export default async function WelcomePage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  const { held, problem } = await opened(() => readWelcome(token, systemClock));
  return problem ? <LinkEnded problem={problem} again="/sign-in" /> : <WelcomeForm token={token} {...held} />;
}
