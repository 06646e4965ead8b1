import sharp from 'sharp';
import { plateForAll } from '@/core/look';
import { MAIL_GROUNDS } from '@/core/signature';
import { coloursOf } from './colours';

/** What a mail carries of one picture at most, in bytes: two and its text stay below 90 KB in base 64. */
const MOST_BYTES = 40_000;
/** Margin of a plate on each side, as a share of the picture's: its proportions stay, and with them what mails say of its size. */
const MARGIN = 0.06;

/** A picture of ours, PNG, as mails show it on whatever ground: on a plate where it would vanish on one of them. `bytes` at the size of pages. */
export async function mailPicture({ bytes }: { bytes: Buffer }): Promise<Buffer> {
  const { colours } = await coloursOf({ bytes });
  const plate = plateForAll(colours, [MAIL_GROUNDS.day, MAIL_GROUNDS.night]);
  const { width = 1, height = 1 } = await sharp(bytes).metadata();
  const made = plate === null ? bytes : await onPlate(bytes, plate, { width, height });
  let light = made;
  for (const colours of [64, 16, 4])
    if (light.length > MOST_BYTES) light = await sharp(made).png({ palette: true, colours }).toBuffer();
  return light;
}

async function onPlate(bytes: Buffer, fill: string, { width, height }: { width: number; height: number }) {
  const within = (side: number) => Math.max(1, Math.round(side * (1 - 2 * MARGIN)));
  const inner = await sharp(bytes).resize(within(width), within(height), { fit: 'inside' }).toBuffer();
  const round = Math.round(Math.min(width, height) * 0.12);
  const ground = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><rect width="${width}" height="${height}" rx="${round}" fill="${fill}"/></svg>`;
  return sharp(Buffer.from(ground))
    .composite([{ input: inner, gravity: 'centre' }])
    .png({ palette: true })
    .toBuffer();
}
