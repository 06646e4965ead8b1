import type { Metadata } from 'next';
import { cache } from 'react';
import { openCard } from '@/server/services/cards/open-card';
import { orNotFound } from './page-or-not-found';
import { actorOrSignIn } from './session';

type Params = Promise<{ card: string }>;

const opened = cache(async (rawId: string) => {
  const actor = await actorOrSignIn();
  return { actor, card: await orNotFound(rawId, (id) => openCard(actor, id)) };
});

/** The card of a page's address and who looks at it; the page for nothing here when there is none. Opened once a request. */
export const openedCard = async (params: Params) => opened((await params).card);

/** The title of one of a card's pages: it begins with person and card. */
export const titleOfCard =
  (page: string) =>
  async ({ params }: { params: Params }): Promise<Metadata> => {
    const { card } = await openedCard(params);
    return { title: `${card.person}, ${card.audience}: ${page}` };
  };
