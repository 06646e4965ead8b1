import { z } from 'zod';
import { change, idOf, inputOf } from '@/app/request/respond';
import { CodeStyleSchema } from '@/core/qr/schema';
import { systemClock } from '@/server/clock';
import { restyle } from '@/server/services/hand-outs/codes';

const Input = z.object({ style: CodeStyleSchema, all: z.boolean().default(false) });

/** Draws a code in another style, and with `all` the live ones of the same person. */
export const PUT = (request: Request, { params }: { params: Promise<{ handOut: string }> }) =>
  change(request, 'picture', async (actor) =>
    restyle(actor, idOf((await params).handOut), await inputOf(request, Input), systemClock),
  );
