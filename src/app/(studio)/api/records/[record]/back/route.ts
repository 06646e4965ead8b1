import { change, idOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { bringBackPerson } from '@/server/services/cards/deletion';

/** Brings a deleted person back, with the cards that went with them. */
export const POST = (request: Request, { params }: { params: Promise<{ record: string }> }) =>
  change(request, 'change', async (actor) => bringBackPerson(actor, idOf((await params).record), systemClock));
