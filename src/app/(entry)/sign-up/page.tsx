import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { currentActor } from '@/app/request/session';
import { SignUp } from '@/ui/entry/sign-up';

export const metadata: Metadata = { title: 'New account' };

export default async function SignUpPage() {
  if (await currentActor()) redirect('/');
  return <SignUp />;
}
