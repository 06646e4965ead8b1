import { networkOfClient, respond } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { packageFile } from '@/server/services/pieces/designer';

/** What a piece is made of, as a ZIP, for whoever has the link. */
export const GET = (request: Request, { params }: { params: Promise<{ token: string }> }) =>
  respond(async () => {
    await limitRate('link', networkOfClient(request), systemClock);
    const { bytes, fileName } = await packageFile((await params).token, systemClock);
    return new Response(new Uint8Array(bytes), {
      headers: {
        ...{ 'Content-Type': 'application/zip', 'Cache-Control': 'no-store', 'X-Content-Type-Options': 'nosniff' },
        'Content-Disposition': `attachment; filename="${fileName}"`,
      },
    });
  });
