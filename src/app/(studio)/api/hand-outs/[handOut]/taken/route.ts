import { change, idOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { signatureTaken } from '@/server/services/hand-outs/signature';

/** Notes that a signature was copied: it is out from then on. */
export const POST = (request: Request, { params }: { params: Promise<{ handOut: string }> }) =>
  change(request, 'change', async (actor) => signatureTaken(actor, idOf((await params).handOut), systemClock));
