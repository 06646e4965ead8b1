import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { chooseContacts } from '@/server/services/review-import';

const Input = z.object({ verdict: z.enum(['new', 'differs', 'same', 'twice']), take: z.boolean() });

export const PUT = (request: Request, { params }: { params: Promise<{ import: string }> }) =>
  change(request, 'change', async (actor) =>
    chooseContacts(actor, idOf((await params).import), await inputOf(request, Input)),
  );
