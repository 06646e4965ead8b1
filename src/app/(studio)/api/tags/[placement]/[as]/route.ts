import { z } from 'zod';
import { actorOrRefuse, idOf, respond } from '@/app/request/respond';
import { Refusal } from '@/core/errors';
import { systemClock } from '@/server/clock';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { supplierList } from '@/server/services/hand-outs/tag-rows';

const TYPES = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
} as const;
const As = z.enum(['csv', 'xlsx']);

type Params = { params: Promise<{ placement: string; as: string }> };

/** The tags of a placement as a table for whoever prints and encodes them. */
export const GET = (_: Request, { params }: Params) =>
  respond(async () => {
    const { placement, as } = await params;
    const asked = As.safeParse(as);
    if (!asked.success) throw new Refusal({ code: 'NOT_FOUND' });
    const actor = await actorOrRefuse();
    await limitRate('export', actor.userId, systemClock);
    const { bytes, fileName } = await supplierList(actor, idOf(placement), asked.data);
    return new Response(new Uint8Array(bytes), {
      headers: {
        'Content-Type': TYPES[asked.data],
        'Cache-Control': 'private, no-cache',
        'X-Content-Type-Options': 'nosniff',
        'Content-Disposition': `attachment; filename="${fileName}"`,
      },
    });
  });
