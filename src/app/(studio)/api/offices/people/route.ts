import { z } from 'zod';
import { change, inputOf } from '@/app/request/respond';
import { LIMITS } from '@/core/limits';
import { systemClock } from '@/server/clock';
import { moveToOffice } from '@/server/services/house/offices';

const Input = z.object({ office: z.uuid().nullable(), records: z.array(z.uuid()).min(1).max(LIMITS.rosterRows) });

/** Has people belong to an office, or to none. */
export const POST = (request: Request) =>
  change(request, 'change', async (actor) => {
    const { office, records } = await inputOf(request, Input);
    return moveToOffice(actor, office, records, systemClock);
  });
