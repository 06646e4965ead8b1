import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { currentActor } from '@/app/request/session';
import { ENTRY } from '@/core/messages';
import { SignUp } from '@/ui/entry/sign-up';

export const metadata: Metadata = { title: ENTRY.newAccount };

export default async function SignUpPage() {
  if (await currentActor()) redirect('/');
  return <SignUp />;
}
