import { actorOrRefuse, idOf, respond } from '@/app/request/respond';
import { outThere } from '@/server/services/wild/list-copies';

/** What is out of the values of a record, in copies that do not change with it. */
export const GET = (_: Request, { params }: { params: Promise<{ record: string }> }) =>
  respond(async () => ({ out: await outThere(await actorOrRefuse(), idOf((await params).record)) }));
