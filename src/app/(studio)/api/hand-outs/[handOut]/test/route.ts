import { change, idOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { testCode } from '@/server/services/hand-outs/codes';

/** Waits for the next scan of a code as its test. */
export const POST = (request: Request, { params }: { params: Promise<{ handOut: string }> }) =>
  change(request, 'change', async (actor) => testCode(actor, idOf((await params).handOut), systemClock));
