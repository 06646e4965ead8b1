import { actorOrRefuse, respond } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { takeAlong } from '@/server/services/organisation/take-along';

/** Everything of the organisation as a download. A GET, so that the browser saves it as it comes; it changes nothing but the audit trail. */
export const GET = () =>
  respond(async () => {
    const actor = await actorOrRefuse();
    await limitRate('archive', actor.organisationId, systemClock);
    const { name, bytes } = await takeAlong(actor, systemClock);
    return new Response(bytes, {
      headers: {
        'Content-Type': 'application/x-tar',
        'Content-Disposition': `attachment; filename="${name}"`,
        'Cache-Control': 'no-store',
        'X-Content-Type-Options': 'nosniff',
      },
    });
  });
