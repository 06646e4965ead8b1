import { actorOrRefuse, idOf, respond } from '@/app/request/respond';
import { whatStopsWithPerson } from '@/server/services/cards/deletion';

type Params = { params: Promise<{ record: string }> };

/** What would stop working if the person were deleted with all their cards. */
export const GET = (_request: Request, { params }: Params) =>
  respond(async () => whatStopsWithPerson(await actorOrRefuse(), idOf((await params).record)));
