import sharp from 'sharp';
import { chanceFrom } from './chance';

const SKINS = ['#F2C9A5', '#E3AC82', '#C98D62', '#A56A43', '#7C4A2D', '#EBB99A'];
const HAIRS = ['#2B1D17', '#4A2F20', '#7A4A26', '#B07A3C', '#8C8A86', '#D8D3C8', '#5B2A1C'];
const GROUNDS = ['#2B4B44', '#5A3A4F', '#3D5A73', '#7A5A2E', '#4B6B3C', '#6B3F6E', '#8A4A34', '#35505B'];
const CLOTHES = ['#C9B98A', '#C2542D', '#E7D9A8', '#3E5C50', '#2E4057', '#8A5A6B', '#D9D4C6'];

const pick = <T>(list: T[], chance: () => number): T => list[Math.floor(chance() * list.length)]!;

/** Hair behind and in front of the head; the head is an ellipse of 62 by 78 around (200, 190). */
const HAIR: ((colour: string) => [behind: string, front: string])[] = [
  (c) => ['', `<path d="M136 190q-10-104 66-104t64 104q-10-52-40-58-50 14-90 58z" fill="${c}"/>`],
  (c) => [
    `<path d="M128 320q-20-232 72-232t72 232z" fill="${c}"/>`,
    `<path d="M138 186q4-76 64-80 58 4 60 80-22-40-58-54-40 10-66 54z" fill="${c}"/>`,
  ],
  (c) => [
    `<circle cx="200" cy="92" r="34" fill="${c}"/>`,
    `<path d="M136 182q2-84 64-86 62 2 64 86-18-46-64-48-46 2-64 48z" fill="${c}"/>`,
  ],
  (c) => [
    `<g fill="${c}"><circle cx="146" cy="150" r="42"/><circle cx="254" cy="150" r="42"/><circle cx="200" cy="116" r="56"/></g>`,
    `<path d="M138 176q14-50 62-50t62 50q-26-28-62-28t-62 28z" fill="${c}"/>`,
  ],
  (c) => [
    `<path d="M132 262q-22-172 68-172t68 172l-22 6q14-60 8-98h-108q-6 38 8 98z" fill="${c}"/>`,
    `<path d="M138 184q2-80 62-80t62 80q-62-6-76-44-14 34-48 44z" fill="${c}"/>`,
  ],
  () => ['', ''],
];

/**
 * A drawn portrait, the same for the same seed: 400 by 400 pixels, as JPEG. `helmet` draws the helmet that riggers wear.
 */
export async function drawPortrait(seed: number, helmet: boolean): Promise<Buffer> {
  const chance = chanceFrom(seed * 7_919 + 13);
  const [skin, hair, ground, cloth] = [
    pick(SKINS, chance),
    pick(HAIRS, chance),
    pick(GROUNDS, chance),
    pick(CLOTHES, chance),
  ];
  const [behind, front] = pick(HAIR, chance)(hair);
  const beard =
    chance() < 0.25
      ? `<path d="M140 208q6 72 60 74 54-2 60-74-14 26-30 26-14-10-30-10t-30 10q-16 0-30-26z" fill="${hair}"/>`
      : '';
  const glasses =
    chance() < 0.3
      ? '<g fill="none" stroke="#2A2422" stroke-width="5"><circle cx="174" cy="188" r="20"/><circle cx="226" cy="188" r="20"/><path d="M194 186q6-5 12 0"/></g>'
      : '';
  const smile = 8 + chance() * 12;
  const hat = helmet
    ? '<path d="M126 164q0-88 74-88t74 88z" fill="#E3A52B"/><rect x="116" y="156" width="168" height="16" rx="8" fill="#C98D1E"/><rect x="188" y="72" width="24" height="84" rx="8" fill="#F0C44C"/>'
    : '';
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="400" height="400" viewBox="0 0 400 400">
<rect width="400" height="400" fill="${ground}"/><circle cx="200" cy="210" r="170" fill="#fff" opacity=".07"/>
${helmet ? '' : behind}<path d="M70 400q14-104 130-104t130 104z" fill="${cloth}"/><path d="M172 250h56v56q-28 26-56 0z" fill="${skin}"/><path d="M172 262q28 30 56 0v16q-28 24-56 0z" fill="#000" opacity=".12"/>
<ellipse cx="200" cy="190" rx="62" ry="78" fill="${skin}"/>${beard}
<g fill="#2A2422"><ellipse cx="175" cy="188" rx="6" ry="7"/><ellipse cx="225" cy="188" rx="6" ry="7"/></g>
<g fill="none" stroke="#2A2422" stroke-linecap="round" stroke-width="5"><path d="M163 168q12-8 24-2M213 166q12-6 24 2" opacity=".75"/><path d="M200 194l-5 18h9" opacity=".35" stroke-width="4"/><path d="M180 230q20 ${smile} 40 0"/></g>${glasses}
${helmet ? '' : front}${hat}</svg>`;
  return sharp(Buffer.from(svg)).jpeg({ quality: 88 }).toBuffer();
}
