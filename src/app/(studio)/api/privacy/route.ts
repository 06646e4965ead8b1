import { askedOfMap } from '@/app/request/privacy';
import { actorOrRefuse, respond } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { privacyMap } from '@/server/services/wild/privacy-map';

/** Who has something private in public: of one `kind`, in one form `on`, found by `q`, from `after` on. */
export const GET = (request: Request) =>
  respond(async () => {
    const actor = await actorOrRefuse();
    await limitRate('search', actor.userId, systemClock);
    const asked = new URL(request.url).searchParams;
    return privacyMap(actor, { ...askedOfMap(Object.fromEntries(asked)), after: asked.get('after') });
  });
