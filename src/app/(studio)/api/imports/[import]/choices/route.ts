import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { VERDICTS } from '@/core/imports';
import { chooseContacts } from '@/server/services/imports/review-import';

const Input = z.object({ verdict: z.enum(VERDICTS), take: z.boolean() });

export const PUT = (request: Request, { params }: { params: Promise<{ import: string }> }) =>
  change(request, 'change', async (actor) =>
    chooseContacts(actor, idOf((await params).import), await inputOf(request, Input)),
  );
