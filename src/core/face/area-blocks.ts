import { coloursOf, layoutOf, type Area } from '@/core/look';
import type { FaceItem, FaceLine } from './face';
import type { Attempt } from './attempt';
import { drawnLogo } from './logo';
import type { SetText } from './typeset';

type Place = { x: number; y: number; width: number; height: number };

/** What stands in one area at a given width: the height that it needs, and how it is drawn where it comes to lie. */
export type AreaBlock = {
  height: number;
  smallestType: number;
  cut: boolean;
  /** Whether a word is broken in two. */
  broken: boolean;
  /** Letters that none of our families has; asked for once it is drawn. */
  missing: () => string[];
  /** Whether it takes its area to the edges. */
  fills?: boolean;
  draw: (place: Place, at: { lifted: boolean; whole: Place }) => FaceItem[];
};

const NOTHING: AreaBlock = {
  height: 0,
  smallestType: Number.POSITIVE_INFINITY,
  cut: false,
  broken: false,
  missing: () => [],
  draw: () => [],
};

/** Shifts of a text's lines from the left of its place. */
function shiftsOf(text: SetText, width: number, align: 'start' | 'centre' | 'end', toRight: boolean): number[] {
  const right = (align === 'end') !== toRight;
  return text.widths.map((each) => (align === 'centre' ? (width - each) / 2 : right ? width - each : 0));
}

const alignOf = ({ look }: Attempt, area: Area) => layoutOf(look.layout).align[area] ?? 'start';
const fontsOf = ({ look }: Attempt, heavy: boolean) =>
  heavy ? { family: look.title, weight: 'heavy' as const } : { family: look.text, weight: 'plain' as const };

function textBlock(
  of: Attempt,
  area: Area,
  width: number,
  says: string,
  set: { size: number; heavy: boolean; most: number; colour: string; middle?: boolean },
): AreaBlock {
  if (!says) return NOTHING;
  const text = of.typesetter.set(says, { ...fontsOf(of, set.heavy), size: set.size, width, most: set.most });
  return {
    height: text.height,
    smallestType: set.size,
    cut: text.cut,
    broken: text.broken,
    missing: () => text.missing,
    draw: (place, { lifted }) => [
      {
        kind: 'text',
        x: place.x,
        y: place.y + (lifted ? place.height - text.height : set.middle ? (place.height - text.height) / 2 : 0),
        text,
        shifts: shiftsOf(text, place.width, alignOf(of, area), of.content.toRight),
        colour: set.colour,
        says,
      },
    ],
  };
}

/** The name as large as its longest word lets it be, and no smaller than a line. */
function nameBlock(of: Attempt, width: number, onBand: boolean): AreaBlock {
  const { look, content, base, typesetter, tight } = of;
  const colours = coloursOf(look.palette);
  const { name: times } = layoutOf(look.layout);
  const fonts = fontsOf(of, true);
  const wanted = base * Math.max(1, times * of.share);
  const most = times >= 2.5 ? 4 : 3;
  const longest = Math.max(...content.name.split(/\s+/).map((word) => typesetter.measure(word, fonts)));
  let size = Math.max(base, Math.min(wanted, longest > 0 ? (width / longest) * 0.995 : wanted));
  while (size > base && typesetter.set(content.name, { ...fonts, size, width, most }).cut)
    size = Math.max(base, size * 0.92);
  const colour = onBand ? colours.onBand : colours.ink;
  return textBlock(of, 'name', width, content.name, {
    size,
    heavy: true,
    most: tight ? most : 12,
    colour,
    middle: times >= 2.5,
  });
}

function plainBlock(of: Attempt, area: 'role' | 'firm', width: number, onBand: boolean): AreaBlock {
  const { ink, onBand: over } = coloursOf(of.look.palette);
  return textBlock(of, area, width, of.content[area], {
    size: of.base,
    heavy: false,
    most: of.tight ? 2 : 4,
    colour: onBand ? over : ink,
  });
}

function alarmBlock(of: Attempt, width: number, onBand: boolean): AreaBlock {
  const { alarm } = of.content;
  if (!alarm) return NOTHING;
  const { ink, onBand: over } = coloursOf(of.look.palette);
  const colour = onBand ? over : ink;
  const label = textBlock(of, 'alarm', width, alarm.label, { size: of.base, heavy: false, most: 2, colour });
  const number = textBlock(of, 'alarm', width, alarm.value, { size: of.base * 1.6, heavy: true, most: 2, colour });
  return {
    height: label.height + number.height,
    smallestType: Math.min(label.smallestType, number.smallestType),
    cut: label.cut || number.cut,
    broken: label.broken || number.broken,
    missing: () => [...label.missing(), ...number.missing()],
    draw: (place, at) => [
      ...label.draw({ ...place, height: label.height }, { ...at, lifted: false }),
      ...number.draw({ ...place, y: place.y + label.height, height: number.height }, { ...at, lifted: false }),
    ],
  };
}

type LineBlock = Pick<AreaBlock, 'height' | 'smallestType' | 'cut' | 'broken' | 'missing'> & {
  draw: (place: Place) => FaceItem[];
};

/** One line: its label beside its value where the layout or its kind asks for it. */
function lineBlock(of: Attempt, line: FaceLine, width: number, labels: number, onBand: boolean): LineBlock {
  const { look, base, content, typesetter } = of;
  const colours = coloursOf(look.palette);
  const own = look.lines[line.id];
  const size = Math.max(of.size.leastType, base * (own?.size === 'large' ? 1.2 : own?.size === 'small' ? 0.88 : 1));
  const named = labels > 0 && line.label !== '' && (layoutOf(look.layout).lines === 'table' || line.named);
  const gap = named ? labels + base * 0.6 : 0;
  const [ink, soft] = onBand ? [colours.onBand, colours.onBand] : [colours.ink, colours.soft];
  const tone = onBand ? ink : own?.tone === 'accent' ? colours.accent : own?.tone === 'soft' ? soft : ink;
  const fonts = fontsOf(of, own?.heavy ?? false);
  const value = typesetter.set(line.value, { ...fonts, size, width: width - gap, most: 3 });
  const label = named
    ? typesetter.set(line.label, { ...fontsOf(of, false), size: base, width: labels * 1.01, most: 1 })
    : null;
  const { toRight } = content;
  return {
    height: value.height,
    smallestType: label ? Math.min(size, base) : size,
    cut: value.cut,
    broken: value.broken,
    missing: () => [...value.missing, ...(label?.missing ?? [])],
    draw: ({ x, y }) => [
      ...(label
        ? [
            {
              kind: 'text' as const,
              x: toRight ? x + width - labels : x,
              y: y + (size - base) * 0.9,
              text: label,
              shifts: shiftsOf(label, labels, 'start', toRight),
              colour: soft,
              says: line.label,
            },
          ]
        : []),
      {
        kind: 'text' as const,
        x: toRight ? x : x + gap,
        y,
        text: value,
        shifts: shiftsOf(value, width - gap, 'start', toRight),
        colour: tone,
        says: line.value,
      },
    ],
  };
}

function linesBlock(of: Attempt, width: number, onBand: boolean): AreaBlock {
  const { content, count, base, look, typesetter } = of;
  const lines = content.lines.slice(0, count);
  if (lines.length === 0) return NOTHING;
  const mode = layoutOf(look.layout).lines;
  const columns = mode === 'columns' && width > base * 26 ? 2 : 1;
  const gutter = base;
  const each = (width - gutter * (columns - 1)) / columns;
  const labelled = lines.filter(({ label, named }) => label !== '' && (mode === 'table' || named));
  const widest = Math.max(0, ...labelled.map(({ label }) => typesetter.measure(label, fontsOf(of, false)) * base));
  // Labels take two fifths at most.
  const labels = Math.min(widest, each * 0.4);
  const set = lines.map((line) => lineBlock(of, line, each, labels, onBand));
  const gap = base * 0.16;
  const perColumn = Math.ceil(set.length / columns);
  const stacks = Array.from({ length: columns }, (_, at) => set.slice(at * perColumn, (at + 1) * perColumn));
  const heightOf = (stack: LineBlock[]) =>
    stack.reduce((sum, { height }) => sum + height, 0) + gap * Math.max(0, stack.length - 1);
  const height = Math.max(...stacks.map(heightOf));
  const thick = { none: 0, hair: base * 0.045, bold: base * 0.16 }[look.rules];
  const colours = coloursOf(look.palette);
  const ruled = thick > 0 && !onBand && of.size.form !== 'back';
  return {
    height: height + (ruled ? base * 0.5 : 0),
    smallestType: Math.min(...set.map(({ smallestType }) => smallestType)),
    cut: set.some(({ cut }) => cut),
    broken: set.some(({ broken }) => broken),
    missing: () => set.flatMap(({ missing }) => missing()),
    draw: (place) => {
      const top = place.y + place.height - height;
      const rule: FaceItem[] = ruled
        ? [
            {
              kind: 'rule',
              x: place.x,
              y: top - base * 0.5,
              width: place.width,
              height: thick,
              colour: look.rules === 'bold' ? colours.edge : colours.hair,
            },
          ]
        : [];
      const drawn = stacks.flatMap((stack, at) => {
        const column = content.toRight ? columns - 1 - at : at;
        let y = top;
        return stack.flatMap((line) => {
          const items = line.draw({ x: place.x + column * (each + gutter), y, width: each, height: line.height });
          y += line.height + gap;
          return items;
        });
      });
      return [...rule, ...drawn];
    },
  };
}

function photoBlock(of: Attempt, width: number): AreaBlock {
  const { look, content, size, base } = of;
  if (!content.photo) return NOTHING;
  const shorter = Math.min(size.width, size.height);
  const fills = layoutOf(look.layout).photo === 'fills';
  // With nothing but a name beside it there is more room for a face.
  const share = { small: 0.24, normal: 0.34, large: 0.46 }[look.photo.share] * (content.lines.length > 0 ? 1 : 1.15);
  const side = Math.min(width, shorter * share, base * 17.5 * share) * of.share;
  return {
    ...NOTHING,
    // A wide and low cut would cost a head.
    height: fills ? Math.min(width * 0.85, size.height / 2, base * 15) * of.share : side,
    fills,
    draw: (place) => {
      if (fills) return [{ kind: 'picture', which: 'photo', ...place, shape: 'filled' }];
      const edge = Math.min(place.width, Math.max(side, Math.min(place.height, shorter * share * 1.2)));
      const spare = place.width - edge;
      const left = alignOf(of, 'photo') === 'centre' ? spare / 2 : content.toRight ? spare : 0;
      const x = place.x + left;
      const y = place.y + (place.height - edge) / 2;
      return [{ kind: 'picture', which: 'photo', x, y, width: edge, height: edge, shape: look.photo.shape }];
    },
  };
}

function logoBlock(of: Attempt, width: number): AreaBlock {
  const { content, base, size } = of;
  const { logo } = content;
  if (!logo) return NOTHING;
  const high = (size.form === 'back' ? size.height * 0.3 : base * 2.4) * of.share;
  const height = Math.min(high, (width * logo.height) / logo.width);
  const wide = (height * logo.width) / logo.height;
  return {
    ...NOTHING,
    height,
    draw: (place) => {
      const align = alignOf(of, 'logo');
      const right = (align === 'end') !== content.toRight;
      const left = align === 'centre' ? (place.width - wide) / 2 : right ? place.width - wide : 0;
      const [x, y] = [place.x + left, place.y + (place.height - height) / 2];
      return drawnLogo({ x, y, width: wide, height }, logo.plate);
    },
  };
}

export const blocksOf: Record<Area, (of: Attempt, width: number, onBand: boolean) => AreaBlock> = {
  photo: photoBlock,
  logo: logoBlock,
  name: nameBlock,
  role: (of, width, onBand) => plainBlock(of, 'role', width, onBand),
  firm: (of, width, onBand) => plainBlock(of, 'firm', width, onBand),
  alarm: alarmBlock,
  lines: linesBlock,
  // Buttons and blocks are the page's.
  acts: () => NOTHING,
  lead: () => NOTHING,
  rest: () => NOTHING,
};
