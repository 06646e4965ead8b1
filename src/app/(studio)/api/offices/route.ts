import { change, inputOf } from '@/app/request/respond';
import { OfficeSchema } from '@/core/house';
import { systemClock } from '@/server/clock';
import { saveOffice } from '@/server/services/house/offices';

/** Makes an office. */
export const POST = (request: Request) =>
  change(request, 'change', async (actor) =>
    saveOffice(actor, null, { ...(await inputOf(request, OfficeSchema)), base: 0 }, systemClock),
  );
