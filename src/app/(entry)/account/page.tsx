import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { actorOrSignIn } from '@/app/request/session';
import { ACCOUNT } from '@/core/words';
import { systemClock } from '@/server/clock';
import { BACK_MS } from '@/server/services/cards/deletion';
import { readSecondFactor } from '@/server/services/accounts/second-factor';
import { listSessions } from '@/server/services/accounts/sessions';
import { mailIsOpen } from '@/server/services/mail/post-mail';
import { Account } from '@/ui/account/account';
import { ConfirmPassword } from '@/ui/studio/confirm-password';
import { dayIn } from '@/ui/studio/instant';

export const metadata: Metadata = { title: ACCOUNT.title };

export default async function AccountPage() {
  const actor = await actorOrSignIn();
  if (actor.mustChangePassword) redirect('/password');
  const [sessions, factor] = [await listSessions(actor, systemClock), await readSecondFactor(actor)];
  const { name: organisation, timeZone } = actor.organisation;
  return (
    <>
      <Account
        name={actor.name}
        own={{ email: actor.email, confirmed: actor.emailConfirmed, open: mailIsOpen() }}
        organisation={organisation}
        isOwner={actor.role === 'owner'}
        alone={actor.alone}
        erased={actor.deletedAt === undefined ? null : dayIn(timeZone, actor.deletedAt + BACK_MS)}
        sessions={sessions}
        factor={factor}
        must={actor.mustSetUpSecondFactor}
        timeZone={timeZone}
      />
      <ConfirmPassword />
    </>
  );
}
