import { redirect } from 'next/navigation';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import { actorOrSignIn } from '@/app/request/session';
import { nonceOf } from '@/app/request/studio-headers';
import { mailIsOpen } from '@/server/services/mail/post-mail';
import { trayIsShown } from '@/server/services/mail/read-tray';
import { Frame } from '@/ui/frame/frame';
import { WithCompanyDefaults } from '@/ui/studio/organisation';

export default async function StudioLayout({ children }: { children: ReactNode }) {
  const actor = await actorOrSignIn();
  if (actor.deletedAt !== undefined) redirect('/account');
  if (actor.mustChangePassword) redirect('/password');
  if (actor.mustSetUpSecondFactor) redirect('/account');
  const member = { role: actor.role, alone: actor.alone };
  return (
    <WithCompanyDefaults defaults={actor.organisation.defaults}>
      <Frame
        organisation={actor.organisation.name}
        person={actor.name}
        member={member}
        tray={trayIsShown()}
        nonce={nonceOf(await headers())}
        unconfirmed={mailIsOpen() && !actor.emailConfirmed ? actor.email : null}
      >
        {children}
      </Frame>
    </WithCompanyDefaults>
  );
}
