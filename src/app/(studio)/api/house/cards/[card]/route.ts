import { actorOrRefuse, idOf, respond } from '@/app/request/respond';
import { cardBeside } from '@/server/services/house/house-cards';

/** One more of them. */
export const GET = (_request: Request, { params }: { params: Promise<{ card: string }> }) =>
  respond(async () => cardBeside(await actorOrRefuse(), idOf((await params).card)));
