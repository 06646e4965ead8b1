import type { Metadata } from 'next';
import { opened } from '@/app/request/link';
import { ENTRY } from '@/core/words';
import { systemClock } from '@/server/clock';
import { readNewPassword } from '@/server/services/accounts/forgotten';
import { LinkEnded } from '@/ui/entry/link-ended';
import { ReplacePassword } from '@/ui/entry/replace-password';

export const metadata: Metadata = { title: ENTRY.newPassword, referrer: 'no-referrer' };

export default async function NewPasswordPage({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  const { problem } = await opened(() => readNewPassword(token, systemClock));
  return problem ? <LinkEnded problem={problem} again="/forgotten" /> : <ReplacePassword token={token} />;
}
