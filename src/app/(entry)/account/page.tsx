import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { actorOrSignIn } from '@/app/request/session';
import { ACCOUNT } from '@/core/messages';
import { systemClock } from '@/server/clock';
import { readSecondFactor } from '@/server/services/second-factor';
import { listSessions } from '@/server/services/sessions';
import { Account } from '@/ui/account/account';
import { ConfirmPassword } from '@/ui/studio/confirm-password';

export const metadata: Metadata = { title: ACCOUNT.title };

export default async function AccountPage() {
  const actor = await actorOrSignIn();
  if (actor.mustChangePassword) redirect('/password');
  const [sessions, factor] = [await listSessions(actor, systemClock), await readSecondFactor(actor)];
  return (
    <>
      <Account
        name={actor.name}
        sessions={sessions}
        factor={factor}
        must={actor.mustSetUpSecondFactor}
        timeZone={actor.organisation.timeZone}
      />
      <ConfirmPassword />
    </>
  );
}
