import sharp from 'sharp';
import { chanceFrom } from './chance';

const GROUNDS = ['#1F2A33', '#2E2438'];
const VOICES = ['#E9D9A6', '#A9D3D8'];

/** A cover for a recording: a voice as an instrument draws it, time from left to right, pitch upwards; 1,200 by 900 pixels, as JPEG. */
export function drawCover(seed: number): Promise<Buffer> {
  const chance = chanceFrom(seed * 7_919 + 3);
  const at = seed % GROUNDS.length;
  const calls = Array.from({ length: 9 }, (_, call) => {
    const [x, rise] = [90 + call * 118 + chance() * 30, 160 + chance() * 320];
    const over = [1, 0.66, 0.4].map((share, harmonic) => {
      const y = 760 - rise * (1 - harmonic * 0.28) * share;
      return `<path d="M${x} 780C${x + 16} ${y + 140} ${x + 34} ${y} ${x + 88} ${y + 40 + chance() * 60}" stroke-width="${15 - harmonic * 5}" opacity="${1 - harmonic * 0.3}"/>`;
    });
    return over.join('');
  });
  const hiss = Array.from(
    { length: 60 },
    () =>
      `<path d="M${chance() * 1_200} ${700 + chance() * 170}h${20 + chance() * 60}" stroke-width="3" opacity=".28"/>`,
  );
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="1200" height="900"><rect width="1200" height="900" fill="${GROUNDS[at]}"/><g fill="none" stroke="${VOICES[at]}" stroke-linecap="round">${hiss.join('')}${calls.join('')}</g></svg>`;
  return sharp(Buffer.from(svg)).jpeg({ quality: 86 }).toBuffer();
}
