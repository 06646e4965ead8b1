import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { markForWork } from '@/server/services/records/edit-record';

const Input = z.object({ detail: z.string().max(40) });

/** Says of a detail of a record that it is for work. */
export const POST = (request: Request, { params }: { params: Promise<{ record: string }> }) =>
  change(request, 'change', async (actor) =>
    markForWork(actor, idOf((await params).record), (await inputOf(request, Input)).detail, systemClock),
  );
