import { change, idOf } from '@/app/request/respond';
import { removeMapping } from '@/server/services/roster/begin-run';

export const DELETE = (request: Request, { params }: { params: Promise<{ mapping: string }> }) =>
  change(request, 'change', async (actor) => removeMapping(actor, idOf((await params).mapping)));
