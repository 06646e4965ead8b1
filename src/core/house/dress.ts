import {
  shownBlocks,
  squeeze,
  type Block,
  type Channel,
  type ComposedLine,
  type Composition,
  type Said,
} from '@/core/card';
import { shownValue } from '@/core/record';
import {
  contrast,
  groundsOf,
  layoutOf,
  leastVeil,
  LOOK_PARTS,
  luminance,
  nightLook,
  plateFor,
  TEXT_RATIO,
  type Ground,
  type LogoColours,
  type Look,
  type LookPart,
  type Plates,
} from '@/core/look';
import type { HouseLine, HouseStyle } from './style';

/** The fields of a look that a part is made of. */
export const PART_FIELDS: Record<LookPart, readonly (keyof Look)[]> = {
  layout: ['layout'],
  palette: ['palette', 'night'],
  type: ['title', 'text', 'scale'],
  shape: ['corners', 'rules'],
  ground: ['ground'],
  photo: ['photo'],
};

/** Whether a card shows the house style's part and not its own: it follows it, or is locked to it. */
export const takesFromHouse = (look: Look, house: HouseStyle, part: LookPart): boolean =>
  look.overrides.includes(part) ? false : house.locks[part] !== undefined || look.follows.includes(part);

/** A card's look with the parts of the house style that it takes, as chosen; a layout that the house does not allow gives way. */
export function inheritedLook(look: Look, house: HouseStyle): Look {
  const taken = LOOK_PARTS.filter((part) => takesFromHouse(look, house, part)).flatMap((part) => PART_FIELDS[part]);
  const dressed = { ...look, ...Object.fromEntries(taken.map((field) => [field, house.look[field]])) } as Look;
  const allowed = house.layouts.includes(dressed.layout) || look.overrides.includes('layout');
  return allowed ? dressed : { ...dressed, layout: house.layouts[0]! };
}

/**
 * What a card shows: see {@link inheritedLook}. A ground of the card's own was chosen over other colours than the house's, and a house's
 * over others than the card's: where the name does not read on it, a picture gets more of the band's colour and any other ground
 * becomes plain. So a change of house style breaks no card.
 */
export function houseLook(look: Look, house: HouseStyle): Look {
  const taken = inheritedLook(look, house);
  const [palette, ground] = [takesFromHouse(look, house, 'palette'), takesFromHouse(look, house, 'ground')];
  return {
    ...taken,
    ground: palette === ground ? taken.ground : readableGround(taken),
  };
}

function readableGround({ palette, ground }: Look): Ground {
  if (groundsOf({ palette, ground }).every((each) => contrast(palette.onBand, each) >= TEXT_RATIO)) return ground;
  return ground.kind === 'picture' ? { ...ground, veil: leastVeil(palette, ground) } : { kind: 'plain' };
}

/** The ground that a logo stands on in a look: the band's colour where the layout puts it there, else the sheet's. */
export const logoGround = ({ layout, palette }: Look): string =>
  (layoutOf(layout).band as readonly string[]).includes('logo') ? palette.band : palette.sheet;

/** All the colours that a logo really stands on in a look: of a band with a pattern or a picture each that it shows. */
export const logoGrounds = (look: Look): string[] =>
  logoGround(look) === look.palette.band ? groundsOf(look) : [look.palette.sheet];

/** The plates that logos need in a look: the one by day, and the one by night where it is another. */
export function platesFor(look: Look, day: LogoColours, night: LogoColours): Plates {
  const dark = nightLook(look);
  return {
    day: plateFor(day, logoGrounds(look), look.palette.sheet),
    night: plateFor(night, logoGrounds(dark), dark.palette.sheet),
  };
}

/** The logo for a ground; the other one where there is none for it. */
export function houseLogo({ logos }: HouseStyle, ground: string) {
  const dark = luminance(ground) < 0.18;
  return dark ? (logos.onDark ?? logos.onLight) : (logos.onLight ?? logos.onDark);
}

/**
 * A card as recipients get it: in the look of the house style where it takes it, with the house's logo, lines and blocks. Applied
 * by reference, each time a card is served: what a revision keeps stays the card's own. Without a house style nothing changes.
 */
export function applyHouseStyle(composition: Composition, house: HouseStyle | null): Composition {
  if (!house) return composition;
  const look = houseLook(composition.look, house);
  const ownLogo = composition.lines.some(({ detail }) => detail.kind === 'logo');
  const logo = ownLogo && house.locks.logo === undefined ? null : houseLogo(house, logoGround(look));
  const blocks = shownBlocks(house.blocks, []).filter(({ id }) => shows(look, house, 'blocks', id));
  const lines: ComposedLine[] = [
    ...(logo
      ? [
          {
            ...PLAIN,
            id: HOUSE_LOGO,
            label: '',
            on: ['page', 'file', 'signature', 'print', 'backdrop', 'pass'] satisfies Channel[],
            detail: { kind: 'logo' as const, id: HOUSE_LOGO, label: '', preferred: false, picture: logo.hash },
          },
        ]
      : []),
    ...dressedLines(look, house).map(({ id, label, detail, page, file }) => ({
      ...PLAIN,
      id,
      label,
      detail,
      // A copy in a code or tag is a contact as the file is.
      on: [
        ...(page ? (['page', 'signature', 'print', 'pass'] as const) : []),
        ...(file ? (['file', 'code', 'tag'] as const) : []),
      ],
    })),
  ];
  const further = Object.fromEntries(
    Object.entries(composition.further).map(([language, said]) => [language, withHouse(said, lines, blocks)]),
  );
  return { ...composition, ...withHouse(composition, lines, blocks), look, further };
}

const shows = ({ hides }: Look, { locks }: HouseStyle, part: 'lines' | 'blocks', id: string): boolean =>
  locks[part] !== undefined || !hides.includes(id);

/** The lines of the house style that a card shows: all of them, without those that it may leave out and does. */
export const dressedLines = (look: Look, house: HouseStyle): HouseLine[] =>
  house.lines.filter(({ id }) => shows(look, house, 'lines', id));

/** Channels that are looked at, which show what the house style puts on the page. */
const SEEN = new Set<Channel>(['page', 'signature', 'print', 'pass']);

/** Values that must not go out, without those that the house style gives out itself. */
export function withoutHouse(withheld: string[], look: Look, house: HouseStyle | null, channel: Channel): string[] {
  const given = (house ? dressedLines(look, house) : [])
    .filter((line) => (SEEN.has(channel) ? line.page : line.file))
    .flatMap(({ label, detail }) => [label, shownValue(detail)])
    .map(squeeze)
    .join('\n');
  return withheld.filter((value) => !given.includes(squeeze(value)));
}

/** The same of a signature, below which the organisation says something in a language. */
export const withoutBelow = (withheld: string[], said: readonly string[]): string[] => {
  const given = squeeze(said.join('\n'));
  return withheld.filter((value) => !given.includes(squeeze(value)));
};

/** The line of the house's logo. */
export const HOUSE_LOGO = 'house-logo';

const PLAIN = { emphasis: 'plain', gap: false } as const;

/** The house's firm and logo stand for a card's own. */
function withHouse<T extends Said>(
  said: T,
  lines: ComposedLine[],
  blocks: Block[],
): Pick<Said, 'lines' | 'blocks' | 'name'> {
  const replaced = new Set(
    lines.map(({ detail }) => detail.kind).filter((kind) => kind === 'organisation' || kind === 'logo'),
  );
  return {
    name: said.name,
    lines: [...said.lines.filter(({ detail }) => !replaced.has(detail.kind as 'logo')), ...lines],
    blocks: [...said.blocks, ...blocks],
  };
}
