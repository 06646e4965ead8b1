import { askedFace, svgResponse } from '@/app/request/faces';
import { actorOrRefuse, idOf, respond } from '@/app/request/respond';
import { Refusal } from '@/core/errors';
import { faceOfDraft, pictureOfDraft } from '@/server/services/media/card-faces';

type Params = { params: Promise<{ card: string; face: string }> };

/** A face of the card as it is saved now: `card-lying.svg`, `picture.webp`; another layout to look at with `?layout=`, and what is ticked for paper with
 * `?channel=print`. */
export const GET = (request: Request, { params }: Params) =>
  respond(async () => {
    const actor = await actorOrRefuse();
    const { card, face } = await params;
    const { name, format, layout, language, channel } = askedFace(request, face);
    const shown = { layout, language, channel };
    if (format === 'svg') return svgResponse(await faceOfDraft(actor, idOf(card), name, shown));
    if (name !== 'link' && name !== 'picture') throw new Refusal({ code: 'NOT_FOUND' });
    const type = format === 'webp' ? 'webp' : 'jpeg';
    const bytes = await pictureOfDraft(actor, idOf(card), name, type, shown);
    return new Response(new Uint8Array(bytes), {
      headers: {
        'Content-Type': `image/${type}`,
        'Cache-Control': 'private, no-cache',
        'X-Content-Type-Options': 'nosniff',
      },
    });
  });
