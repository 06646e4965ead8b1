import { z } from 'zod';
import { actorOrRefuse, change, idOf, inputOf, respond } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { messageDraft, sendMessage } from '@/server/services/hand-outs/message';

const Input = z.object({
  to: z.string().max(300),
  name: z.string().max(300),
  note: z.string().max(LIMITS.text),
  occasionId: z.uuid().nullable(),
});

type Params = { params: Promise<{ card: string }> };

/** Sends the card to somebody by mail. */
export const POST = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) =>
    sendMessage(actor, idOf((await params).card), await inputOf(request, Input), systemClock),
  );

/** The message as a draft for a mail program (`?note=`, `?occasion=`). */
export const GET = (request: Request, { params }: Params) =>
  respond(async () => {
    const actor = await actorOrRefuse();
    const asked = new URL(request.url).searchParams;
    const note = (asked.get('note') ?? '').slice(0, LIMITS.text);
    const occasionId = asked.get('occasion') ? idOf(asked.get('occasion')!) : null;
    const { bytes, fileName } = await messageDraft(actor, idOf((await params).card), { note, occasionId }, systemClock);
    return new Response(new Uint8Array(bytes), {
      headers: {
        'Content-Type': 'message/rfc822',
        'Cache-Control': 'private, no-store',
        'X-Content-Type-Options': 'nosniff',
        'Content-Disposition': `attachment; filename="${fileName}"`,
      },
    });
  });
