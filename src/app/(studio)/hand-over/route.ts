import { respond } from '@/app/request/respond';
import { currentActor } from '@/app/request/session';
import { nonceOf } from '@/app/request/studio-headers';
import { handOverPage } from '@/core/hand-over';
import { systemClock } from '@/server/clock';
import { IDLE_DAYS } from '@/server/services/accounts/sessions';
import { handOver } from '@/server/services/hand-outs/hand-over';

const elsewhere = (place: string) => new Response(null, { status: 307, headers: { Location: place } });

/** The page that holds a card up: one answer, so that a phone can keep it. A worker that renews what it keeps is told 401 where nobody is signed in. */
export const GET = (request: Request) =>
  respond(async () => {
    const actor = await currentActor();
    if (!actor)
      return request.headers.get('heathland-renew') ? new Response(null, { status: 401 }) : elsewhere('/sign-in');
    if (actor.mustChangePassword || actor.mustSetUpSecondFactor || actor.deletedAt !== undefined)
      return elsewhere('/people');
    const nonce = nonceOf(request.headers);
    return new Response(handOverPage(await handOver(actor, systemClock), { nonce, script: '/hand-over/page.js' }), {
      headers: {
        'Content-Type': 'text/html; charset=utf-8',
        'Cache-Control': 'no-store',
        'Heathland-Idle-Ends': String(systemClock.now() + IDLE_DAYS * 86_400_000),
      },
    });
  });
