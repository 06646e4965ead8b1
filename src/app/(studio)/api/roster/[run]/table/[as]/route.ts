import { actorOrRefuse, idOf, respond } from '@/app/request/respond';
import { tableFile, tableForm } from '@/app/request/table-file';
import { systemClock } from '@/server/clock';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { rowsWithRemarks } from '@/server/services/roster/sheets';

/** The rows of a run with their remarks. */
export const GET = (_: Request, { params }: { params: Promise<{ run: string; as: string }> }) =>
  respond(async () => {
    const { run, as } = await params;
    const form = tableForm(as);
    const actor = await actorOrRefuse();
    await limitRate('export', actor.userId, systemClock);
    return tableFile(await rowsWithRemarks(actor, idOf(run), form), form);
  });
