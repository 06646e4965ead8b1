import type { Metadata } from 'next';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { idOf } from '@/app/request/respond';
import { actorOrSignIn } from '@/app/request/session';
import { TAGS } from '@/core/words';
import { settings } from '@/server/env';
import { listTags } from '@/server/services/hand-outs/tag-rows';
import { TagRowsScreen } from '@/ui/tags/tag-rows';

export const metadata: Metadata = { title: TAGS.rows.title };

type Params = { searchParams: Promise<{ placement?: string | string[] }> };

export default async function TagsPage({ searchParams }: Params) {
  const actor = await actorOrSignIn();
  const { placement } = await searchParams;
  const opened = await shownOrNotFound(async () => {
    if (typeof placement === 'string') return listTags(actor, idOf(placement));
    const known = await listTags(actor, null);
    // Without one that is named it is the newest.
    return known.placements[0] ? listTags(actor, known.placements[0].id) : known;
  });
  return (
    <TagRowsScreen
      key={opened.of?.id}
      opened={opened}
      bench={settings().TAG_BENCH === 'on'}
      zone={actor.organisation.timeZone}
    />
  );
}
