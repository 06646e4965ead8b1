import { change, idOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { endOwnSession } from '@/server/services/accounts/sessions';

export const DELETE = (request: Request, { params }: { params: Promise<{ session: string }> }) =>
  change(request, 'change', async (actor) => endOwnSession(actor, idOf((await params).session), systemClock));
