import { change, idOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { endDesigner } from '@/server/services/pieces/designer';

type Params = { params: Promise<{ handOut: string; link: string }> };

/** Ends a link for a designer. */
export const DELETE = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => {
    const { handOut, link } = await params;
    return endDesigner(actor, idOf(handOut), idOf(link), systemClock);
  });
