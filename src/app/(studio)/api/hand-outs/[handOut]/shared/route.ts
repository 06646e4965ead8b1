import { change, idOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { cardShared } from '@/server/services/hand-outs/share';

/** Counts a contact that a device has shared. */
export const POST = (request: Request, { params }: { params: Promise<{ handOut: string }> }) =>
  change(request, 'change', async (actor) => cardShared(actor, idOf((await params).handOut), systemClock));
