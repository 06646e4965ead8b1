import type { Metadata } from 'next';
import { orNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { readAudiences } from '@/server/services/audiences';
import { openRecord } from '@/server/services/edit-record';
import { RECORD } from '@/core/messages';
import { RecordSheet } from '@/ui/record/record-sheet';

export const metadata: Metadata = { title: RECORD.page };

export default async function RecordPage({ params }: { params: Promise<{ record: string }> }) {
  const actor = await actorOrSignIn();
  const record = await orNotFound((await params).record, (id) => openRecord(actor, id));
  const { country, timeZone } = actor.organisation;
  const audiences = await readAudiences(actor);
  return <RecordSheet opened={record} country={country} zone={timeZone} audiences={audiences} key={record.id} />;
}
