import { actorOrRefuse, hashOf, respond } from '@/app/request/respond';
import { markOfPicture } from '@/server/services/hand-outs/marks';

/** A picture as the mark of a code: a small PNG written out as an address. */
export const GET = (_request: Request, { params }: { params: Promise<{ hash: string }> }) =>
  respond(async () => markOfPicture(await actorOrRefuse(), hashOf((await params).hash)));
