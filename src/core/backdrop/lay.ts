import {
  drawnLogo,
  faceContent,
  logoWithin,
  type Face,
  type FaceContent,
  type FaceItem,
  type SetText,
  type Typesetter,
} from '@/core/face';
import type { Composition } from '@/core/card';
import type { Language } from '@/core/language';
import { coloursOf, contrast, SHAPE_RATIO } from '@/core/look';
import type { Drawing } from '@/core/qr';
import { BACKDROP, CODE_SIZES, LEAST_TYPE, MARGIN, SITTER, type Backdrop } from './spec';

/** What a backdrop is laid out from; sizes of pictures in pixels, `logo` with the plate that it needs behind it. */
export type BackdropOrder = {
  composition: Composition;
  language: Language;
  backdrop: Backdrop;
  pictures: Pick<FaceContent, 'photo' | 'logo'>;
  code: Drawing;
};

/** Type in pixels as it is first tried, and the steps in which it gets smaller. */
const TYPE = { name: 72, text: 44 } as const;
const STEP = 0.93;
const GAP = 24;
/** Room within the panel that words stand on over a photo. */
const PAD = 32;
const LOGO_HIGH = 110;
const PHOTO_SIDE = 168;

type Words = { texts: { text: SetText; says: string }[]; height: number; fits: boolean };

/**
 * Lays out the picture behind somebody in a call: the code in one top corner, name, role, logo and whatever else is ticked in the other, the
 * middle free for whoever sits there. What has no room even in the smallest type is told (`cut`). Pixels.
 */
export function layBackdrop(order: BackdropOrder, typesetter: Typesetter): Face {
  const { composition, backdrop, code, pictures } = order;
  const { look } = composition;
  const said = faceContent(composition, order.language, pictures, 'lines', 'backdrop');
  const colours = coloursOf(look.palette);
  const whole = { x: 0, y: 0, ...BACKDROP };
  const ground = backdrop.picture
    ? ({ kind: 'picture', picture: backdrop.picture, veil: 0, darkest: '#000000', lightest: '#FFFFFF' } as const)
    : look.ground;
  const items: FaceItem[] = [{ kind: 'band', ...whole, colour: colours.band, ground }];

  const codeWidth = CODE_SIZES[backdrop.code];
  const codeHeight = (codeWidth * code.height) / code.width;
  const codeBox = {
    x: backdrop.corner === 'right' ? BACKDROP.width - MARGIN - codeWidth : MARGIN,
    ...{ y: MARGIN, width: codeWidth, height: codeHeight },
  };
  if (!code.ground) items.push({ kind: 'sheet', ...codeBox, colour: '#FFFFFF' });
  items.push({ kind: 'code', ...codeBox, drawing: code });

  const onPanel = backdrop.picture !== null;
  const pad = onPanel ? PAD : 0;
  const wide = SITTER.x - MARGIN - GAP - 2 * pad;
  const logo = said.logo && logoWithin(said.logo, LOGO_HIGH, wide);
  const above = [...(said.photo ? [PHOTO_SIDE] : []), ...(logo ? [logo.height] : [])];
  const most = BACKDROP.height - 2 * MARGIN - 2 * pad - above.reduce((sum, each) => sum + each + GAP, 0);
  const words = wordsIn(said, look, { width: wide, height: most }, typesetter);
  const height = above.reduce((sum, each) => sum + each + GAP, 0) + words.height + 2 * pad;
  const left = backdrop.corner === 'right' ? MARGIN : BACKDROP.width - MARGIN - wide - 2 * pad;
  if (onPanel) items.push({ kind: 'sheet', x: left, y: MARGIN, width: wide + 2 * pad, height, colour: colours.sheet });
  // Words keep to the edge that they stand at.
  const toEdge = (width: number) => (backdrop.corner === 'right' ? 0 : wide - width);
  let y = MARGIN + pad;
  if (said.photo) {
    const box = { x: left + pad + toEdge(PHOTO_SIDE), y, width: PHOTO_SIDE, height: PHOTO_SIDE };
    items.push({ kind: 'picture', which: 'photo', ...box, shape: 'round' });
    y += PHOTO_SIDE + GAP;
  }
  if (logo && said.logo) {
    items.push(...drawnLogo({ x: left + pad + toEdge(logo.width), y, ...logo }, said.logo.plate));
    y += logo.height + GAP;
  }
  const onBand = contrast(colours.onBand, colours.band) >= SHAPE_RATIO ? colours.onBand : colours.ink;
  const ink = onPanel ? colours.ink : onBand;
  for (const { text, says } of words.texts) {
    items.push({ kind: 'text', x: left + pad, y, text, shifts: text.widths.map(toEdge), colour: ink, says });
    y += text.height;
  }
  const sizes = words.texts.map(({ text }) => text.size);
  return {
    ...BACKDROP,
    items,
    leftOut: [],
    smallestType: Math.min(...sizes, Number.POSITIVE_INFINITY),
    cut: words.fits ? [] : ['name'],
    missing: [...new Set(words.texts.flatMap(({ text }) => text.missing))],
  };
}

/** The words as large as they fit, down to the least type. */
function wordsIn(
  { name, role, firm, alarm, lines }: FaceContent,
  look: Composition['look'],
  room: { width: number; height: number },
  typesetter: Typesetter,
): Words {
  const below = [...(alarm ? [alarm] : []), ...lines].map(({ label, value, named }) =>
    named && label ? `${label} ${value}` : value,
  );
  const plain = [role, firm, ...below].filter(Boolean);
  for (let factor = 1; ; factor *= STEP) {
    const size = { name: Math.max(LEAST_TYPE, TYPE.name * factor), text: Math.max(LEAST_TYPE, TYPE.text * factor) };
    const set = (text: string, heavy: boolean) =>
      typesetter.set(text, {
        ...{ family: heavy ? look.title : look.text, weight: heavy ? 'heavy' : 'plain' },
        ...{ size: heavy ? size.name : size.text, width: room.width, most: 4 },
      });
    const texts = [
      ...(name ? [{ text: set(name, true), says: name }] : []),
      ...plain.map((says) => ({ text: set(says, false), says })),
    ];
    const height = texts.reduce((sum, { text }) => sum + text.height, 0);
    const least = size.name <= LEAST_TYPE;
    const fits = height <= room.height && texts.every(({ text }) => !text.cut && (!text.broken || least));
    if (fits || least) return { texts, height, fits };
  }
}
