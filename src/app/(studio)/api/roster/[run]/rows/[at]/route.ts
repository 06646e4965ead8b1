import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { decideRow } from '@/server/services/roster/open-run';

const Input = z.object({ take: z.boolean().optional(), decision: z.enum(['new', 'known']).nullable().optional() });

/** Decides a row. */
export const PUT = (request: Request, { params }: { params: Promise<{ run: string; at: string }> }) =>
  change(request, 'change', async (actor) => {
    const asked = await params;
    // What is no number is the place of nothing.
    const at = /^\d{1,8}$/.test(asked.at) ? Number(asked.at) : -1;
    await decideRow(actor, idOf(asked.run), at, await inputOf(request, Input), systemClock);
  });
