import { change, idOf } from '@/app/request/respond';
import { dropTemplate } from '@/server/services/hand-outs/templates';

type Params = { params: Promise<{ template: string }> };

export const DELETE = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => dropTemplate(actor, idOf((await params).template)));
