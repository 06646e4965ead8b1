import { actorOrRefuse, respond } from '@/app/request/respond';
import { readPicture } from '@/server/services/pictures';

export const GET = (_request: Request, { params }: { params: Promise<{ hash: string }> }) =>
  respond(async () => {
    const bytes = await readPicture(await actorOrRefuse(), (await params).hash);
    return new Response(new Uint8Array(bytes), {
      headers: {
        'Content-Type': 'image/jpeg',
        'Cache-Control': 'private, max-age=31536000, immutable',
        'X-Content-Type-Options': 'nosniff',
      },
    });
  });
