import { change, idOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { removeLook } from '@/server/services/house/looks';

export const DELETE = (request: Request, { params }: { params: Promise<{ look: string }> }) =>
  change(request, 'change', async (actor) => removeLook(actor, idOf((await params).look), systemClock));
