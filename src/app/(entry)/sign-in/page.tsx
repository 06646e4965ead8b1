import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { currentActor } from '@/app/request/session';
import { SignIn } from '@/ui/entry/sign-in';

export const metadata: Metadata = { title: 'Sign in' };

export default async function SignInPage() {
  if (await currentActor()) redirect('/');
  return <SignIn />;
}
