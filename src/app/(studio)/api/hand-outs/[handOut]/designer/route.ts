import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { askDesigner } from '@/server/services/pieces/designer';

const Asked = z.object({ days: z.number().int().min(1).max(LIMITS.designerDays) });

/** A link by which a designer fetches what a piece is made of. */
export const POST = (request: Request, { params }: { params: Promise<{ handOut: string }> }) =>
  change(request, 'change', async (actor) =>
    askDesigner(actor, idOf((await params).handOut), (await inputOf(request, Asked)).days, systemClock),
  );
