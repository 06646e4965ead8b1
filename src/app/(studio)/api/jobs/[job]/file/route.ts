import { actorOrRefuse, idOf, respond } from '@/app/request/respond';
import { madeFileBytes } from '@/server/services/pieces/together';

/** The file that a job has made. */
export const GET = (_: Request, { params }: { params: Promise<{ job: string }> }) =>
  respond(async () => {
    const { bytes, fileName } = await madeFileBytes(await actorOrRefuse(), idOf((await params).job));
    return new Response(new Uint8Array(bytes), {
      headers: {
        'Content-Type': 'application/pdf',
        'Cache-Control': 'private, no-cache',
        'X-Content-Type-Options': 'nosniff',
        'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(fileName)}`,
      },
    });
  });
