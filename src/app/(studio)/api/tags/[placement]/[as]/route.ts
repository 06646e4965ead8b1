import { actorOrRefuse, idOf, respond } from '@/app/request/respond';
import { tableFile, tableForm } from '@/app/request/table-file';
import { systemClock } from '@/server/clock';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { supplierList } from '@/server/services/hand-outs/tag-rows';

type Params = { params: Promise<{ placement: string; as: string }> };

/** The tags of a placement as a table for whoever prints and encodes them. */
export const GET = (_: Request, { params }: Params) =>
  respond(async () => {
    const { placement, as } = await params;
    const form = tableForm(as);
    const actor = await actorOrRefuse();
    await limitRate('export', actor.userId, systemClock);
    return tableFile(await supplierList(actor, idOf(placement), form), form);
  });
