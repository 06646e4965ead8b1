import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { chooseContact } from '@/server/services/review-import';

const Input = z.object({
  take: z.boolean().optional(),
  chosen: z.array(z.string().max(60)).max(LIMITS.details).optional(),
});

export const PUT = (request: Request, { params }: { params: Promise<{ import: string; at: string }> }) =>
  change(request, 'change', async (actor) => {
    const asked = await params;
    if (!/^\d{1,6}$/.test(asked.at)) throw new Refusal({ code: 'NOT_FOUND' });
    await chooseContact(actor, idOf(asked.import), Number(asked.at), await inputOf(request, Input));
  });
