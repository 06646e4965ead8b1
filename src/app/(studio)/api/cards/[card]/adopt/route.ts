import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { VersionSchema } from '@/app/request/well-formed';
import { systemClock } from '@/server/clock';
import { adoptWording } from '@/server/services/cards/adopt-wording';

const Input = z.object({ baseVersion: VersionSchema, line: z.string().max(40) });

export const POST = (request: Request, { params }: { params: Promise<{ card: string }> }) =>
  change(request, 'change', async (actor) =>
    adoptWording(actor, idOf((await params).card), await inputOf(request, Input), systemClock),
  );
