import {
  bandOn,
  cellsOf,
  coloursOf,
  FAMILIES,
  fontFile,
  layoutOf,
  mapWith,
  mirrored,
  nightLook,
  RANGES,
  rgbOf,
  roomOf,
  spansOf,
  type Area,
  type Cells,
  type FamilyName,
  type Ground,
  type Look,
  type Palette,
  type Plates,
  type Weight,
} from '@/core/look';
import { scriptOf, type Language } from '@/core/language';
import { FILLING_PHOTO, STANDING_PHOTO } from './sizes';

/** Width from which a page is laid out by its layout's broad map, in CSS pixels. */
export const BROAD = 820;

/** Size of a line in CSS pixels, where the browser's own is 16; given out in its unit, so that larger text of one's own works. */
const LINE = { small: 16, normal: 17, large: 18.5 } as const;
const CORNER = { square: 0, eased: 4, round: 16 } as const;

/** What the style of a page depends on besides its look. */
export type Dressed = {
  filled: ReadonlySet<Area>;
  name: string;
  language: Language;
  /** Address of the band's picture; null where there is none. */
  ground: string | null;
  /** What stands behind the logo where it would vanish. */
  plates?: Plates;
  /** Whether the page loads its type by itself, see {@link fontsFor}. */
  loadsType?: boolean;
};

const variables = (palette: Palette): string => {
  const { sheet, ink, soft, hair, ground, band, onBand, act, onAct, edge, accent } = coloursOf(palette);
  return `--s:${sheet};--i:${ink};--q:${soft};--h:${hair};--g:${ground};--b:${band};--ob:${onBand};--a:${act};--oa:${onAct};--e:${edge};--t:${accent}`;
};

/** The style sheet of one card: colours by day and night, type, and its areas in their places, from its layout's description. */
export function lookStyle(look: Look, dressed: Dressed): string {
  const { map, band } = layoutOf(look.layout);
  const place = (form: 'narrow' | 'wide') => {
    const cells = cellsOf(map[form]);
    return placed(mapWith(look.photo.side === 'end' ? mirrored(cells) : cells, dressed.filled), band, look, form);
  };
  const rule = { none: '0 solid', hair: '1px solid var(--h)', bold: '2px solid var(--e)' }[look.rules];
  const size = nameSize(look, dressed.name);
  const night = nightLook(look);
  return (
    (dressed.loadsType ? families(look) : faces(look, dressed.language)) +
    `:root{--w:520px;${variables(look.palette)};--r:${CORNER[look.corners]}px;--l:${rule};--f:${LINE[look.scale] / 16}rem;--n:${size};--sm:${size > 2.4 ? 'block' : 'inline'};--p:${STANDING_PHOTO[look.photo.share]}px;--pr:${{ round: '50%', eased: '10%', square: '0' }[look.photo.shape]}}` +
    `.ground{background:${background(look.ground, look.palette.band, dressed.ground)}}` +
    (night === look ? '' : byNight(night, dressed.ground)) +
    place('narrow') +
    `@media(min-width:${BROAD}px){:root{--w:1040px}${place('wide')}}` +
    lines(look) +
    platesStyle(dressed.plates)
  );
}

/** A plate behind the logo, by day, by night or both. */
function platesStyle({ day, night }: Plates = { day: null, night: null }): string {
  const on = (colour: string) =>
    `.logo img{background:${colour};padding:6px 10px;box-sizing:content-box;border-radius:3px}`;
  return (
    (day && day === night ? on(day) : day ? `@media(prefers-color-scheme:light){${on(day)}}` : '') +
    (night && night !== day ? `@media(prefers-color-scheme:dark){${on(night)}}` : '')
  );
}

const byNight = ({ palette, ground }: Look, picture: string | null): string =>
  `@media(prefers-color-scheme:dark){:root{color-scheme:dark;${variables(palette)}}.ground{background:${background(ground, palette.band, picture)}}}`;

/** The files that a page asks for before anything else: those of the letters that it is written in. */
export function firstFonts({ title, text }: Look, language: Language): string[] {
  const subset = scriptOf(language) === 'Arab' ? 'arabic' : 'latin';
  const of = (family: FamilyName) => (subset === 'arabic' ? 'vazirmatn' : family);
  return [fontFile(of(title), 'heavy', subset), fontFile(of(text), 'plain', subset)].map((file) => `/fonts/${file}`);
}

/** Letters of a subset in a text. */
const HAS: Record<keyof typeof RANGES, RegExp> = {
  latin: /[a-z0-9]/i,
  'latin-ext': /[\u0100-\u02ba\u1e00-\u1eff]/,
  arabic: /[\u0600-\u06ff\u0750-\u077f\u08a0-\u08ff\ufb50-\ufdff\ufe70-\ufeff]/,
};

/**
 * The faces that a page which brings its first letters along loads by itself, of the subsets that its text has letters of: family, file
 * and range of code points. The title's only where more than the first screen's letters is set in it.
 */
export function fontsFor({ title, text }: Look, body: string, moreTitle: boolean): [string, string, string][] {
  const subsets = (['latin', 'latin-ext', 'arabic'] as const).filter((subset) => HAS[subset].test(body));
  const of = (as: string, family: FamilyName, weight: Weight) =>
    subsets.map((subset): [string, string, string] => {
      const file = fontFile(subset === 'arabic' ? 'vazirmatn' : family, weight, subset);
      // Whatever the others have no letter of is looked for in this one.
      return [as, `/fonts/${file}`, subset === 'latin' ? 'U+0-10ffff' : RANGES[subset]];
    });
  return [...of('X', text, 'plain'), ...(moreTitle ? of('T', title, 'heavy') : [])];
}

/**
 * The title family's heavy weight and the text family's plain one: two files a page, and what other scripts on it need. Where they
 * are not there within a moment the page stands in the phone's own type, and nothing moves when they come.
 */
function faces({ title, text }: Pick<Look, 'title' | 'text'>, language: Language): string {
  const face = (as: string, family: FamilyName, weight: Weight, subset: keyof typeof RANGES) =>
    `@font-face{font-family:${as};src:url(/fonts/${fontFile(family, weight, subset)})format("woff2");font-weight:1 1000;font-display:optional;unicode-range:${RANGES[subset]}}`;
  const of = (as: string, family: FamilyName, weight: Weight) =>
    (['latin', 'latin-ext'] as const).map((subset) => face(as, family, weight, subset)).join('') +
    (family === 'vazirmatn' || scriptOf(language) === 'Arab' ? face(as, 'vazirmatn', weight, 'arabic') : '');
  return `${of('T', title, 'heavy')}${of('X', text, 'plain')}${families({ title, text })}`;
}

function families({ title, text }: Pick<Look, 'title' | 'text'>): string {
  const kind = (family: FamilyName) => (FAMILIES[family].kind === 'serif' ? 'Georgia,serif' : 'system-ui,sans-serif');
  return `:root{--T:T,${kind(title)};--X:X,${kind(text)}}`;
}

/** The name's size in times a line's: a long one is set smaller, so that the buttons stay in sight. */
function nameSize({ layout }: Look, name: string): number {
  const { name: times } = layoutOf(layout);
  const most = name.length > 90 ? 1.15 : name.length > 40 ? 1.35 : name.length > 22 ? 2 : 4;
  return Math.min(times, most);
}

/** A map as a grid of CSS, with the room of each area and the ground that the band's areas stand on. */
function placed(cells: Cells, band: readonly Area[], look: Look, form: 'narrow' | 'wide'): string {
  // A notice has no areas.
  if (cells.cells.length === 0) return '.ground{display:none}';
  const spans = spansOf(cells);
  const rows = cells.cells.map((row) => `"${row.map((area) => area ?? '.').join(' ')}"`).join('');
  const columns = cells.columns.map((share) => `minmax(0,${share}fr)`).join(' ');
  // The first and the last row beside a tall photo take what it needs more, so that the words stay together.
  const photo = spans.get('photo');
  const tall = photo && photo.bottom > photo.top ? [photo.top, photo.bottom] : [];
  const heights = cells.cells.map((_, y) => (tall.includes(y) ? '1fr' : 'auto')).join(' ');
  const areas = [...spans].map(([area, span]) => {
    const { top, bottom, left, right } = roomOf(area, cells, band);
    const [block, inline] = [(step: number) => (step === 2 ? 18 : 5), (step: number) => (step === 2 ? 20 : 9)];
    const lifted = tall.length > 0 && area !== 'photo' && span.top === tall[0] && span.bottom === span.top;
    const fills = area === 'photo' && layoutOf(look.layout).photo === 'fills';
    const padding = fills
      ? '0'
      : `${block(top)}px ${inline(right)}px ${block(bottom)}px ${inline(left)}px`.replace(
          // Left and right are where reading begins and ends.
          /^(\S+) (\S+) (\S+) (\S+)$/,
          '$1 0 $3;padding-inline:$4 $2',
        );
    return `.${area}{grid-area:${area};padding:${padding}${lifted ? ';align-self:end' : ''}}`;
  });
  const painted = bandOn(cells, band);
  const ground = painted.length === 1 ? painted[0] : null;
  return (
    `main{grid-template:${rows};grid-template-columns:${columns};grid-template-rows:${heights}}${areas.join('')}` +
    (ground
      ? `.ground{display:block;grid-area:${ground.top + 1}/${ground.left + 1}/${ground.bottom + 2}/${ground.right + 2}}.band{background:none}`
      : `.ground{display:none}${painted.length > 1 ? '.band{background:var(--b)}' : ''}`) +
    photoStyle(look, photo !== undefined && photo.left === 0 && photo.right === cells.columns.length - 1, form)
  );
}

/** A photo to the edges takes its area's height where something stands beside it, else a height of its own. */
function photoStyle(look: Look, whole: boolean, form: 'narrow' | 'wide'): string {
  if (layoutOf(look.layout).photo === 'stands') return '';
  return whole
    ? `.photo img{position:static;aspect-ratio:${FILLING_PHOTO[look.photo.share]};max-height:62vh}`
    : `.photo{min-height:${Math.round(STANDING_PHOTO[look.photo.share] * (form === 'wide' ? 2.8 : 1.4))}px}.photo img{position:absolute;aspect-ratio:auto;max-height:none}`;
}

/** The band's ground: CSS Images Module Level 4 for gradients and patterns. */
function background(ground: Ground, band: string, picture: string | null): string {
  if (ground.kind === 'gradient') return `linear-gradient(${ground.angle}deg,var(--b),${ground.to})`;
  if (ground.kind === 'pattern')
    return {
      furrows: `repeating-linear-gradient(135deg,var(--b) 0 9px,${ground.to} 9px 11px)`,
      dots: `radial-gradient(${ground.to} 1.6px,transparent 2px) 0 0/14px 14px var(--b)`,
      weave: `repeating-linear-gradient(90deg,transparent 0 9px,${ground.to} 9px 10px),repeating-linear-gradient(var(--b) 0 9px,${ground.to} 9px 10px)`,
    }[ground.motif];
  if (ground.kind === 'plain' || !picture) return 'var(--b)';
  const veil = `rgb(${rgbOf(band)
    .map((each) => Math.round(each * 255))
    .join(' ')}/${ground.veil})`;
  return `linear-gradient(${veil},${veil}),url(${picture})50%/cover var(--b)`;
}

/** How lists stand, and the looks of single lines that are in use. */
function lines(look: Look): string {
  const mode = {
    stacked: '',
    table:
      'dl div{display:grid;grid-template-columns:minmax(84px,2fr) 5fr;gap:0 14px}dt:only-child,dd:only-child{grid-column:1/-1}',
    columns: 'dl{display:grid;grid-template-columns:repeat(auto-fit,minmax(190px,1fr));gap:0 26px}',
  }[layoutOf(look.layout).lines];
  const used = new Set(Object.values(look.lines).flatMap(lineClasses));
  const rules: Record<string, string> = {
    big: 'dl .big dd{font-size:var(--m)}',
    tiny: 'dl .tiny dd{font-size:var(--k)}',
    heavy: 'dl .heavy dd{font-family:var(--T)}',
    soft: 'dl .soft dd,dl .soft a{color:var(--q)}',
    accent: 'dl .accent dd,dl .accent a{color:var(--t)}',
  };
  return mode + [...used].map((each) => rules[each]).join('');
}

/** The classes of a line's own look. */
export const lineClasses = (own: Look['lines'][string] | undefined): string[] =>
  own
    ? [
        ...(own.size === 'large' ? ['big'] : own.size === 'small' ? ['tiny'] : []),
        ...(own.heavy ? ['heavy'] : []),
        ...(own.tone === 'ink' ? [] : [own.tone]),
      ]
    : [];
