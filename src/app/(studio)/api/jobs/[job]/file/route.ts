import { actorOrRefuse, idOf, respond } from '@/app/request/respond';
import { madeFileStream } from '@/server/services/pieces/together';

/** The file that a job has made, part by part as the browser takes it. */
export const GET = (_: Request, { params }: { params: Promise<{ job: string }> }) =>
  respond(async () => {
    const { stream, bytes, fileName } = await madeFileStream(await actorOrRefuse(), idOf((await params).job));
    return new Response(stream, {
      headers: {
        'Content-Type': fileName.endsWith('.zip') ? 'application/zip' : 'application/pdf',
        'Content-Length': String(bytes),
        'Cache-Control': 'private, no-cache',
        'X-Content-Type-Options': 'nosniff',
        'Content-Disposition': `attachment; filename*=UTF-8''${encodeURIComponent(fileName)}`,
      },
    });
  });
