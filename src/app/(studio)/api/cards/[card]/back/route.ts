import { change, idOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { bringBackCard } from '@/server/services/cards/deletion';

/** Brings a deleted card back. */
export const POST = (request: Request, { params }: { params: Promise<{ card: string }> }) =>
  change(request, 'change', async (actor) => bringBackCard(actor, idOf((await params).card), systemClock));
