import { actorOrRefuse, hashOf, respond } from '@/app/request/respond';
import { coloursOfPicture } from '@/server/services/house/looks';

/** The colours of a picture: its strongest, and its darkest and lightest pixel. */
export const GET = (_request: Request, { params }: { params: Promise<{ hash: string }> }) =>
  respond(async () => coloursOfPicture(await actorOrRefuse(), hashOf((await params).hash)));
