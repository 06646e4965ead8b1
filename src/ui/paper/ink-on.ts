/** Pixels of the longer side that a ground is looked at with. */
const LOOKED = 120;

type Box = { x: number; y: number; width: number; height: number };

/** Black or white, whichever stands out from what a picture shows in a box, in shares of its sides; black where it cannot be looked at. */
export async function inkOn(svg: string, { x, y, width, height }: Box): Promise<'#000000' | '#FFFFFF'> {
  try {
    const image = new Image();
    image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;
    await image.decode();
    const scale = LOOKED / Math.max(image.width, image.height, 1);
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [Math.ceil(image.width * scale), Math.ceil(image.height * scale)];
    const context = canvas.getContext('2d')!;
    context.drawImage(image, 0, 0, canvas.width, canvas.height);
    const [left, top] = [Math.round(x * canvas.width), Math.round(y * canvas.height)];
    const across = Math.max(1, Math.round(width * canvas.width));
    const { data } = context.getImageData(left, top, across, Math.max(1, Math.round(height * canvas.height)));
    let sum = 0;
    // Grey levels as ITU-R BT.601, 2.5.1 has them.
    for (let at = 0; at < data.length; at += 4)
      sum += 0.299 * data[at]! + 0.587 * data[at + 1]! + 0.114 * data[at + 2]!;
    return sum / (data.length / 4) > 140 ? '#000000' : '#FFFFFF';
  } catch {
    return '#000000';
  }
}
