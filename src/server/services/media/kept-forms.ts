import { drawingOf, keepDrawing } from '@/server/db/cards/drawings';
import { setForm, type PictureForm } from '@/server/db/media/pictures';
import { inTenant } from '@/server/db/pool';
import { files } from '@/server/files';
import { log } from '@/server/log';

/** What lies in the store under a hash; null where that, or the store, is not there: it is made again. */
const lying = async (hash: string | null | undefined): Promise<Buffer | null> =>
  hash
    ? files()
        .get(hash)
        .catch(() => null)
    : null;

/** Keeps what was made in the store. Whoever waits for it has it by then: that it could not be kept costs the next one its making. */
function keep(bytes: Buffer, note: (file: string) => Promise<unknown>): void {
  files()
    .put(bytes)
    .then(note)
    .catch((error: unknown) => log.faultOfMany(error, {}, 'what was made could not be kept'));
}

/** Forms that are being made in this process: whoever asks meanwhile waits for the same. */
const making = new Map<string, Promise<Buffer>>();

/**
 * A lighter form of a picture, made once: read from the store where it lies, `known` by its hash, else made and kept for every process
 * and for as long as the picture. `picture` names that in the organisation. Errors of `make`.
 */
export async function formOf(
  {
    organisationId,
    picture,
    form,
    known,
  }: { organisationId: string; picture: string; form: PictureForm; known: string | null },
  make: () => Promise<Buffer>,
): Promise<Buffer> {
  const key = `${organisationId} ${picture} ${form}`;
  const begun = making.get(key);
  if (begun) return begun;
  const made = (async () => {
    const bytes = await lying(known);
    if (bytes) return bytes;
    const anew = await make();
    keep(anew, (file) => inTenant(organisationId, (tx) => setForm(tx, picture, form, file)));
    return anew;
  })();
  making.set(key, made);
  return made.finally(() => making.delete(key));
}

/**
 * A drawing of a published card, by what it depends on: of the store where it was drawn before, whatever version the card has by now,
 * else drawn and kept in place of the last one of its name. Errors of `draw`.
 */
export async function drawingKept(
  { organisationId, cardId }: { organisationId: string; cardId: string },
  { name, key }: { name: string; key: string },
  draw: () => Promise<Buffer>,
): Promise<Buffer> {
  const row = await inTenant(organisationId, (tx) => drawingOf(tx, cardId, name)).catch(() => undefined);
  const bytes = row?.key === key ? await lying(row.file) : null;
  if (bytes) return bytes;
  const anew = await draw();
  keep(anew, (file) =>
    inTenant(organisationId, (tx) =>
      keepDrawing(tx, { organisation_id: organisationId, card_id: cardId, name, key, file }),
    ),
  );
  return anew;
}
