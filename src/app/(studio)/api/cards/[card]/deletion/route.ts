import { actorOrRefuse, idOf, respond } from '@/app/request/respond';
import { whatStopsWithCard } from '@/server/services/cards/deletion';

type Params = { params: Promise<{ card: string }> };

/** What would stop working if the card were deleted. */
export const GET = (_request: Request, { params }: Params) =>
  respond(async () => whatStopsWithCard(await actorOrRefuse(), idOf((await params).card)));
