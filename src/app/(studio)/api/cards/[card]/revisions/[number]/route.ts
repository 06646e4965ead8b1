import { actorOrRefuse, idOf, respond } from '@/app/request/respond';
import { Refusal } from '@/core/errors';
import { openRevision } from '@/server/services/publishing/revisions';

export const GET = (_request: Request, { params }: { params: Promise<{ card: string; number: string }> }) =>
  respond(async () => {
    const { card, number } = await params;
    if (!/^\d{1,9}$/.test(number)) throw new Refusal({ code: 'NOT_FOUND' });
    return openRevision(await actorOrRefuse(), idOf(card), Number(number));
  });
