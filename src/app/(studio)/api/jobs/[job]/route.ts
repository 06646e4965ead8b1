import { actorOrRefuse, idOf, respond } from '@/app/request/respond';
import { readJob } from '@/server/services/jobs/jobs';

export const GET = (_request: Request, { params }: { params: Promise<{ job: string }> }) =>
  respond(async () => readJob(await actorOrRefuse(), idOf((await params).job)));
