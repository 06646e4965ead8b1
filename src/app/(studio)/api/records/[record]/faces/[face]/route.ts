import { askedFace, svgResponse } from '@/app/request/faces';
import { actorOrRefuse, idOf, respond } from '@/app/request/respond';
import { faceOfRecord } from '@/server/services/media/card-faces';

type Params = { params: Promise<{ record: string; face: string }> };

/** A face of the card that this record would start with, in a layout: `card-lying.svg?layout=cairn`. */
export const GET = (request: Request, { params }: Params) =>
  respond(async () => {
    const actor = await actorOrRefuse();
    const { record, face } = await params;
    const { name, layout, start, private: isPrivate } = askedFace(request, face);
    const from = { layout: layout ?? 'trod', start, isPrivate: isPrivate === 'yes' };
    return svgResponse(await faceOfRecord(actor, idOf(record), name, from));
  });
