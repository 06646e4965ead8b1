import type { Metadata } from 'next';
import { cache } from 'react';
import { orNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { reachOf } from '@/core/access';
import { chooseOffices, officeOf } from '@/server/services/house/offices';
import { readAudiences } from '@/server/services/organisation/audiences';
import { openRecord } from '@/server/services/records/edit-record';
import { RECORD } from '@/core/words';
import { writtenName } from '@/core/record';
import { RecordSheet } from '@/ui/record/record-sheet';

type Params = { params: Promise<{ record: string }> };

const opened = cache(async (rawId: string) => {
  const actor = await actorOrSignIn();
  return { actor, record: await orNotFound(rawId, (id) => openRecord(actor, id)) };
});

export async function generateMetadata({ params }: Params): Promise<Metadata> {
  const { record } = await opened((await params).record);
  return { title: RECORD.pageOf(writtenName(record.body.name)) };
}

export default async function RecordPage({ params }: Params) {
  const { actor, record } = await opened((await params).record);
  const { country, timeZone } = actor.organisation;
  const audiences = await readAudiences(actor);
  const mayMove = reachOf(actor.role, 'team.write') !== 'none';
  const choice = { office: await officeOf(actor, record.id), offices: mayMove ? await chooseOffices(actor) : [] };
  return (
    <RecordSheet
      opened={record}
      country={country}
      zone={timeZone}
      audiences={audiences}
      choice={choice}
      seesPrivacy={reachOf(actor.role, 'privacy.read') !== 'none'}
      mayDelete={reachOf(actor.role, 'record.delete') !== 'none'}
      key={record.id}
    />
  );
}
