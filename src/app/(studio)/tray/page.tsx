import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { actorOrSignIn } from '@/app/request/session';
import { TRAY } from '@/core/words';
import { readTray, trayIsShown } from '@/server/services/mail/read-tray';
import { Tray } from '@/ui/mail/tray';

export const metadata: Metadata = { title: TRAY.title };

export default async function TrayPage() {
  if (!trayIsShown()) notFound();
  const actor = await actorOrSignIn();
  return <Tray mails={await readTray(actor)} timeZone={actor.organisation.timeZone} />;
}
