import { actorOrRefuse, hashOf, respond } from '@/app/request/respond';
import { PICTURE_SIZES, readPicture } from '@/server/services/media/pictures';

const PNG = 0x89;

/** A picture as on the page, or at another size (`?size=file`, `?size=mail`, `?size=whole`). */
export const GET = (request: Request, { params }: { params: Promise<{ hash: string }> }) =>
  respond(async () => {
    const actor = await actorOrRefuse();
    const asked = new URL(request.url).searchParams.get('size');
    const size = PICTURE_SIZES.find((each) => each === asked) ?? 'page';
    const bytes = await readPicture(actor, hashOf((await params).hash), size);
    return new Response(new Uint8Array(bytes), {
      headers: {
        'Content-Type': bytes[0] === PNG ? 'image/png' : 'image/jpeg',
        'Cache-Control': 'private, max-age=31536000, immutable',
        'X-Content-Type-Options': 'nosniff',
      },
    });
  });
