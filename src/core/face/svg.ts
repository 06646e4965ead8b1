import { mix, type Ground } from '@/core/look';
import { escapeHtml } from '@/core/markup';
import { codeSvg } from '@/core/qr';
import type { Face, FaceItem } from './face';
import type { Typesetter } from './typeset';

/** Pictures as `data:` addresses; one that is missing leaves its place empty. */
export type FacePictures = {
  photo?: string | null;
  logo?: string | null;
  ground?: string | null;
  artwork?: string | null;
};

const n = (value: number): string => String(Math.round(value * 1000) / 1000);

/** A face as SVG (W3C SVG 2): letters as outlines, so that it looks the same wherever it is painted; `unit` of its size, and with it so much around it as was drawn beyond its edges. */
export function faceSvg(
  face: Face,
  typesetter: Typesetter,
  pictures: FacePictures,
  unit: 'px' | 'mm' = 'px',
  bleed = 0,
): string {
  const [width, height] = [face.width + 2 * bleed, face.height + 2 * bleed].map(n);
  const defs: string[] = [];
  const drawn = face.items.map((item, at) => drawItem(item, at, typesetter, pictures, defs)).join('');
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}${unit}" height="${height}${unit}" viewBox="${n(-bleed)} ${n(-bleed)} ${width} ${height}">` +
    `<defs>${defs.join('')}</defs>${drawn}</svg>`
  );
}

function drawItem(item: FaceItem, at: number, typesetter: Typesetter, pictures: FacePictures, defs: string[]): string {
  if (item.kind === 'text') return drawText(item, typesetter);
  const place = `x="${n(item.x)}" y="${n(item.y)}" width="${n(item.width)}" height="${n(item.height)}"`;
  if (item.kind === 'picture') return drawPicture(item, at, place, pictures, defs);
  if (item.kind === 'artwork')
    return pictures.artwork
      ? `<image ${place} href="${escapeHtml(pictures.artwork)}" preserveAspectRatio="none"/>`
      : '';
  if (item.kind === 'code') return nested(item, at);
  if (item.kind !== 'band') return `<rect ${place} fill="${item.colour}"/>`;
  const { ground, colour } = item;
  if (ground.kind === 'picture' && pictures.ground)
    return (
      `<svg ${place} viewBox="0 0 ${n(item.width)} ${n(item.height)}"><image href="${escapeHtml(pictures.ground)}" width="${n(item.width)}" height="${n(item.height)}" preserveAspectRatio="xMidYMid slice"/></svg>` +
      `<rect ${place} fill="${colour}" fill-opacity="${ground.veil}"/>`
    );
  const fill = fillOf(ground, colour, `g${at}`, Math.min(item.width, item.height), defs);
  return `<rect ${place} fill="${fill}"/>`;
}

/** A code within a face; gradients of several have names of their own. */
function nested({ x, y, width, height, drawing }: Extract<FaceItem, { kind: 'code' }>, at: number): string {
  const svg = codeSvg(drawing, { title: '' }).replaceAll('id="g"', `id="q${at}"`).replaceAll('url(#g)', `url(#q${at})`);
  return svg.replace('<svg ', `<svg x="${n(x)}" y="${n(y)}" width="${n(width)}" height="${n(height)}" `);
}

/** What a band is painted with; gradients and patterns are set down in `defs`. */
function fillOf(ground: Ground, colour: string, id: string, size: number, defs: string[]): string {
  if (ground.kind === 'gradient') {
    // The angle of CSS Images Module Level 4, 3.4.1: 0 points up, clockwise.
    const turn = ((ground.angle - 90) * Math.PI) / 180;
    const [x, y] = [Math.cos(turn) / 2, Math.sin(turn) / 2];
    defs.push(
      `<linearGradient id="${id}" x1="${n(0.5 - x)}" y1="${n(0.5 - y)}" x2="${n(0.5 + x)}" y2="${n(0.5 + y)}"><stop offset="0" stop-color="${colour}"/><stop offset="1" stop-color="${ground.to}"/></linearGradient>`,
    );
    return `url(#${id})`;
  }
  if (ground.kind === 'pattern') {
    const s = size / 14;
    const motif = {
      furrows: `<path d="M0 ${n(s)}L${n(s)} 0" stroke="${ground.to}" stroke-width="${n(s / 5)}"/>`,
      dots: `<circle cx="${n(s / 2)}" cy="${n(s / 2)}" r="${n(s / 7)}" fill="${ground.to}"/>`,
      weave: `<path d="M0 ${n(s / 2)}H${n(s / 2)}M${n(s * 0.75)} 0V${n(s)}" stroke="${ground.to}" stroke-width="${n(s / 7)}"/>`,
    }[ground.motif];
    defs.push(
      `<pattern id="${id}" width="${n(s)}" height="${n(s)}" patternUnits="userSpaceOnUse"><rect width="${n(s)}" height="${n(s)}" fill="${colour}"/>${motif}</pattern>`,
    );
    return `url(#${id})`;
  }
  return ground.kind === 'picture' ? mix('#808080', colour, ground.veil) : colour;
}

function drawPicture(
  item: Extract<FaceItem, { kind: 'picture' }>,
  at: number,
  place: string,
  pictures: FacePictures,
  defs: string[],
): string {
  const source = pictures[item.which];
  if (!source) return '';
  const { x, y, width, height, shape } = item;
  // Heads are in the upper part of a portrait.
  const fit = shape === 'whole' ? 'xMidYMid meet' : 'xMidYMin slice';
  const image = `<image ${place} href="${escapeHtml(source)}" preserveAspectRatio="${fit}"`;
  if (shape === 'whole') return `${image}/>`;
  const corner = shape === 'round' ? width / 2 : shape === 'eased' ? width * 0.08 : 0;
  defs.push(
    `<clipPath id="c${at}"><rect x="${n(x)}" y="${n(y)}" width="${n(width)}" height="${n(height)}" rx="${n(corner)}"/></clipPath>`,
  );
  return `${image} clip-path="url(#c${at})"/>`;
}

function drawText({ x, y, text, shifts, colour }: Extract<FaceItem, { kind: 'text' }>, typesetter: Typesetter): string {
  const letters = text.glyphs.map((glyph, at) => {
    const { path, unitsPerEm } = typesetter.outline(glyph);
    if (!path) return '';
    const scale = text.size / unitsPerEm;
    const left = x + glyph.x + shifts[text.lineOf[at]!]!;
    return `<path transform="translate(${n(left)} ${n(y + glyph.y)}) scale(${scale.toFixed(6)} ${(-scale).toFixed(6)})" d="${path}"/>`;
  });
  return `<g fill="${colour}">${letters.join('')}</g>`;
}
