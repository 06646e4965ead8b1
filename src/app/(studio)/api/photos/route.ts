import { bytesOf, change } from '@/app/request/respond';
import { addPhoto } from '@/server/services/edit-record';

/** Photos of phones have up to about ten megabytes. */
const PHOTO_BYTES = 20_000_000;

export const POST = (request: Request) =>
  change(request, async (actor) => addPhoto(actor, await bytesOf(request, PHOTO_BYTES)));
