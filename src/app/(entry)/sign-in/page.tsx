import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { toldProblem } from '@/app/request/entry';
import { currentActor } from '@/app/request/session';
import { ENTRY } from '@/core/words';
import { settings } from '@/server/env';
import { SignIn } from '@/ui/entry/sign-in';

export const metadata: Metadata = { title: ENTRY.signIn };

export default async function SignInPage({ searchParams }: { searchParams: Promise<{ problem?: string }> }) {
  if (await currentActor()) redirect('/');
  const told = toldProblem((await searchParams).problem);
  return <SignIn told={told} open={settings().SIGN_UP === 'open'} mail={settings().MAIL_SERVER !== undefined} />;
}
