import { actorOrRefuse, idOf, respond } from '@/app/request/respond';
import { readPattern } from '@/server/services/roster/open-run';

/** What a sheet needs for cards like this one. */
export const GET = (_: Request, { params }: { params: Promise<{ card: string }> }) =>
  respond(async () => readPattern(await actorOrRefuse(), idOf((await params).card)));
