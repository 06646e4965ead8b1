import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { takeAll } from '@/server/services/roster/open-run';

const Input = z.object({ verdict: z.enum(['new', 'changed', 'leaving']), take: z.boolean() });

/** Takes all rows of a verdict into a run, or none of them. */
export const PUT = (request: Request, { params }: { params: Promise<{ run: string }> }) =>
  change(request, 'change', async (actor) => {
    const { verdict, take } = await inputOf(request, Input);
    await takeAll(actor, idOf((await params).run), verdict, take);
  });
