import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { currentActor } from '@/app/request/session';
import { ENTRY } from '@/core/messages';
import { SignIn } from '@/ui/entry/sign-in';

export const metadata: Metadata = { title: ENTRY.signIn };

export default async function SignInPage() {
  if (await currentActor()) redirect('/');
  return <SignIn />;
}
