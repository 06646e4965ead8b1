import type { Metadata } from 'next';
import { toldProblem } from '@/app/request/entry';
import { ENTRY } from '@/core/words';
import { mailIsOpen } from '@/server/services/mail/post-mail';
import { Forgotten } from '@/ui/entry/forgotten';

export const metadata: Metadata = { title: ENTRY.forgottenTitle };

type Told = { sent?: string; problem?: string };

export default async function ForgottenPage({ searchParams }: { searchParams: Promise<Told> }) {
  const { sent, problem } = await searchParams;
  return <Forgotten open={mailIsOpen()} sent={sent !== undefined} told={toldProblem(problem)} />;
}
