import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { setCopyDone } from '@/server/services/wild/mark-copy';

const Mark = z.object({ done: z.boolean() });

/** Marks a copy as dealt with, or takes the mark away. */
export const PUT = (request: Request, { params }: { params: Promise<{ copy: string }> }) =>
  change(request, 'change', async (actor) =>
    setCopyDone(actor, idOf((await params).copy), (await inputOf(request, Mark)).done, systemClock),
  );
