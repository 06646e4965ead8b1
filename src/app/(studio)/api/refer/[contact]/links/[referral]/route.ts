import { change, idOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { endLink } from '@/server/services/contacts/refer';

type Params = { params: Promise<{ contact: string; referral: string }> };

/** Ends a link at once. */
export const DELETE = (request: Request, { params }: Params) =>
  change(request, 'change', async (actor) => {
    const { contact, referral } = await params;
    return endLink(actor, idOf(contact), idOf(referral), systemClock);
  });
