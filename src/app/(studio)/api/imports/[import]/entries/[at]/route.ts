import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { chooseContact } from '@/server/services/imports/review-import';

const Input = z.object({
  take: z.boolean().optional(),
  chosen: z.array(z.string().max(60)).max(LIMITS.details).optional(),
});

export const PUT = (request: Request, { params }: { params: Promise<{ import: string; at: string }> }) =>
  change(request, 'change', async (actor) => {
    const asked = await params;
    // What is no number is the place of nothing.
    const at = /^\d{1,6}$/.test(asked.at) ? Number(asked.at) : -1;
    await chooseContact(actor, idOf(asked.import), at, await inputOf(request, Input));
  });
