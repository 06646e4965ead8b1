import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { currentActor } from '@/app/request/session';
import { ENTRY } from '@/core/words';
import { NewPassword } from '@/ui/entry/new-password';

export const metadata: Metadata = { title: ENTRY.newPassword };

export default async function PasswordPage() {
  const actor = await currentActor();
  if (!actor) redirect('/sign-in');
  return <NewPassword must={actor.mustChangePassword} />;
}
