import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { referByFile, referByLink, referByMail } from '@/server/services/contacts/refer';

const Input = z.discriminatedUnion('way', [
  z.object({ way: z.literal('file') }),
  z.object({
    way: z.literal('mail'),
    to: z.string().max(300),
    name: z.string().max(300),
    note: z.string().max(LIMITS.text),
    copyTo: z.string().max(300).nullable(),
  }),
  z.object({ way: z.literal('link'), days: z.int().min(1).max(LIMITS.referralDays) }),
]);

type Params = { params: Promise<{ contact: string }> };

/** Passes on what is ticked of a contact: as a contact file, by mail, or by a link that ends. */
export const POST = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => {
    const id = idOf((await params).contact);
    const input = await inputOf(request, Input);
    if (input.way === 'mail') return referByMail(actor, id, input, systemClock);
    if (input.way === 'link') return referByLink(actor, id, input.days, systemClock);
    const { bytes, fileName } = await referByFile(actor, id, systemClock);
    return { text: bytes.toString('utf8'), fileName };
  });
