import { change, idOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { makePreview } from '@/server/services/publishing/preview-card';

export const POST = (request: Request, { params }: { params: Promise<{ card: string }> }) =>
  change(request, 'change', async (actor) => makePreview(actor, idOf((await params).card), systemClock));
