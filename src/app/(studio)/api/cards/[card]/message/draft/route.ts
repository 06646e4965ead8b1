import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { messageDraft } from '@/server/services/hand-outs/message';

const Input = z.object({
  note: z.string().max(LIMITS.text),
  placement: z.string().max(300),
  occasionId: z.uuid().nullable(),
});

type Params = { params: Promise<{ card: string }> };

/** The message as a draft for a mail program; of plain letters throughout, as mail is (RFC 5322 2.1). */
export const POST = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => {
    const { card } = await params;
    const { bytes, fileName } = await messageDraft(actor, idOf(card), await inputOf(request, Input), systemClock);
    return { text: bytes.toString('latin1'), fileName };
  });
