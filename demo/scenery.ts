import sharp from 'sharp';
import { chanceFrom } from './chance';

const SKIES = ['#C9D6D2', '#DCD3BF', '#B9C7D6', '#E2C9B4', '#CBBFD2'];
const RIDGES = ['#8FA39C', '#7A8C99', '#9A8874', '#857A94'];
const SLOPES = ['#4B6B3C', '#6B3F6E', '#7A6A3A', '#3E5C50'];

/** A drawn hillside with a ropeway, the same for the same seed: 1,200 by 900 pixels or, for a film's poster, 675, as JPEG. */
export function drawScenery(seed: number, height: 900 | 675 = 900): Promise<Buffer> {
  const chance = chanceFrom(seed * 4_271 + 5);
  const pick = (list: string[]) => list[Math.floor(chance() * list.length)]!;
  const peak = (from: number) => `${from} ${520 - chance() * 120} ${from + 150} ${250 + chance() * 160}`;
  const ridge = `M0 620L${[0, 300, 600, 900].map(peak).join('L')}L1200 560V900H0z`;
  const [left, right] = [620 + chance() * 90, 120 + chance() * 140];
  const cars = [0.2, 0.55, 0.85].map((place) => {
    const at = place + chance() * 0.08;
    const [x, y] = [at * 1_200, left + (right - left) * at];
    return `<path d="M${x} ${y}v42" stroke="#2A2422" stroke-width="5"/><rect x="${x - 46}" y="${y + 42}" width="92" height="66" rx="10" fill="#A8431F"/><rect x="${x - 36}" y="${y + 52}" width="32" height="26" fill="#F5F3EE"/><rect x="${x + 4}" y="${y + 52}" width="32" height="26" fill="#F5F3EE"/>`;
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="1200" height="900"><rect width="1200" height="900" fill="${pick(SKIES)}"/><path d="${ridge}" fill="${pick(RIDGES)}"/><path d="M0 760Q600 ${600 + chance() * 120} 1200 740V900H0z" fill="${pick(SLOPES)}"/><path d="M0 ${left}L1200 ${right}" stroke="#2A2422" stroke-width="4"/>${cars.join('')}</svg>`;
  return sharp(Buffer.from(svg)).resize(1_200, height, { fit: 'cover' }).jpeg({ quality: 86 }).toBuffer();
}
