import { actorOrRefuse, idOf, respond } from '@/app/request/respond';
import { listRevisions } from '@/server/services/publishing/revisions';

export const GET = (_request: Request, { params }: { params: Promise<{ card: string }> }) =>
  respond(async () => ({ revisions: await listRevisions(await actorOrRefuse(), idOf((await params).card)) }));
