import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { adoptWording } from '@/server/services/adopt-wording';

const Input = z.object({ baseVersion: z.number().int(), line: z.string().max(40) });

export const POST = (request: Request, { params }: { params: Promise<{ card: string }> }) =>
  change(request, 'change', async (actor) =>
    adoptWording(actor, idOf((await params).card), await inputOf(request, Input), systemClock),
  );
