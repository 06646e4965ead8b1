import { actorOrRefuse, idOf, respond } from '@/app/request/respond';
import { tableFile } from '@/app/request/table-file';
import { systemClock } from '@/server/clock';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { emptySheet } from '@/server/services/roster/sheets';

/** An empty sheet for cards like this one. */
export const GET = (_: Request, { params }: { params: Promise<{ card: string }> }) =>
  respond(async () => {
    const actor = await actorOrRefuse();
    await limitRate('export', actor.userId, systemClock);
    return tableFile(await emptySheet(actor, idOf((await params).card)), 'xlsx');
  });
