import type { Metadata } from 'next';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { idOf } from '@/app/request/respond';
import { reachOf } from '@/core/access';
import { COPIES } from '@/core/words';
import { listCopies } from '@/server/services/wild/list-copies';
import { Copies, type Listed } from '@/ui/copies/copies';

export const metadata: Metadata = { title: COPIES.title };

type Asked = Record<'all' | 'q' | 'card' | 'handOut', string | string[] | undefined>;
const one = (value: string | string[] | undefined): string => (typeof value === 'string' ? value.trim() : '');

export default async function CopiesPage({ searchParams }: { searchParams: Promise<Partial<Asked>> }) {
  const actor = await actorOrSignIn();
  const asked = await searchParams;
  const id = (named: string) => (named ? idOf(named) : null);
  const { page, listed } = await shownOrNotFound(async () => {
    const listed: Listed = {
      which: asked.all === undefined ? 'wild' : 'all',
      value: one(asked.q).slice(0, 200),
      card: id(one(asked.card)),
      handOut: id(one(asked.handOut)),
    };
    const of = { cardId: listed.card, handOutId: listed.handOut, which: listed.which, value: listed.value };
    return { listed, page: await listCopies(actor, of) };
  });
  return (
    <Copies
      key={JSON.stringify(listed)}
      first={page}
      listed={listed}
      zone={actor.organisation.timeZone}
      mayMark={reachOf(actor.role, 'hand-out.make') !== 'none'}
    />
  );
}
