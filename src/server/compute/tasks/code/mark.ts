import sharp from 'sharp';

/** A mark is drawn from so many pixels at most: three a module of the largest area that it may cover. */
const SIDE = 240;

/** A logo as the mark of a code: a small PNG written out as an address, its empty edges cut away. */
export async function markOf({ bytes }: { bytes: Buffer }): Promise<{ href: string; ratio: number }> {
  const source = sharp(bytes, { density: 300 });
  const trimmed = await source
    .clone()
    .trim()
    .toBuffer()
    .catch(() => source.toBuffer());
  const { data, info } = await sharp(trimmed)
    .resize(SIDE, SIDE, { fit: 'inside', withoutEnlargement: true })
    .png({ palette: true, colours: 64 })
    .toBuffer({ resolveWithObject: true });
  const ratio = Math.min(5, Math.max(0.2, info.width / info.height));
  return { href: `data:image/png;base64,${data.toString('base64')}`, ratio };
}
