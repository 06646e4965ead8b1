import { change, idOf } from '@/app/request/respond';
import { systemClock } from '@/server/clock';
import { undoImport } from '@/server/services/imports/review-import';

export const POST = (request: Request, { params }: { params: Promise<{ import: string }> }) =>
  change(request, 'import', async (actor) => undoImport(actor, idOf((await params).import), systemClock));
