/**
 * What stands on a card, on whichever form of it: photo, logo, name with pronouns, title and role, firm, the emergency line, the
 * block that leads, the large buttons, the lines (with the blocks that stand before them), the other blocks.
 */
export const AREAS = ['photo', 'logo', 'name', 'role', 'firm', 'alarm', 'lead', 'acts', 'lines', 'rest'] as const;
export type Area = (typeof AREAS)[number];

/**
 * Where areas lie on a form: columns with their shares of the width, rows from top to bottom as area names with blanks
 * between. A row takes what its areas need; one that ends in `/n` takes n shares of what is left on a face.
 */
export type AreaMap = { columns: readonly number[]; rows: readonly string[] };

/** The forms that a layout has a map for: the page on a phone and on a broad screen, faces lying and standing, and a printed back. */
export const FORMS = ['narrow', 'wide', 'lying', 'standing', 'back'] as const;
export type Form = (typeof FORMS)[number];

export type Align = 'start' | 'centre' | 'end';

/** The one description of a layout, which page, picture and printed face follow alike. */
export type Layout = {
  /** From first to last as it is read aloud, copied and printed: whose card it is comes before what has a heading of its own. */
  order: readonly Area[];
  /** What stands on the band; a rectangle on every map. */
  band: readonly Area[];
  /** The kind of block that is raised into the leading area, where a card has one. */
  lead: 'about' | 'products' | 'hours' | 'video' | null;
  /** Whether the photo fills its area to the edges or stands within it. */
  photo: 'fills' | 'stands';
  /** The size of the name in times that of a line. */
  name: number;
  align: Partial<Record<Area, Align>>;
  lines: 'stacked' | 'table' | 'columns';
  map: Record<Form, AreaMap>;
};

const one = (...rows: string[]): AreaMap => ({ columns: [1], rows });
const grid = (columns: readonly number[], ...rows: string[]): AreaMap => ({ columns, rows });

export const LAYOUTS = {
  /** The strip: who it is in one band across the top, everything else below. */
  trod: {
    order: ['photo', 'logo', 'name', 'role', 'firm', 'acts', 'alarm', 'lead', 'lines', 'rest'],
    band: ['photo', 'logo', 'name', 'role', 'firm'],
    lead: null,
    photo: 'stands',
    name: 1.7,
    align: {},
    lines: 'stacked',
    map: {
      narrow: grid(
        [2, 5],
        'photo logo',
        'photo name',
        'photo role',
        'photo firm',
        'acts acts',
        'alarm alarm',
        'lead lead',
        'lines lines',
        'rest rest',
      ),
      wide: grid(
        [2, 6, 4],
        'photo logo logo',
        'photo name name',
        'photo role role',
        'photo firm firm',
        'alarm alarm alarm',
        'lead lead lead',
        'lines lines acts',
        'rest rest rest',
      ),
      lying: grid([3, 8], 'photo logo', 'photo name', 'photo role', 'photo firm', 'alarm alarm', 'lines lines/1'),
      standing: grid([1], 'photo', 'logo', 'name', 'role', 'firm', 'alarm', 'lines/1'),
      back: one('logo/2', 'firm/1'),
    },
  },
  /** Led by the portrait, which fills the top of a phone and a side of everything else. */
  cairn: {
    order: ['photo', 'name', 'role', 'firm', 'acts', 'alarm', 'lines', 'lead', 'rest', 'logo'],
    band: ['name', 'role', 'firm'],
    lead: null,
    photo: 'fills',
    name: 1.9,
    align: {},
    lines: 'stacked',
    map: {
      narrow: one('photo', 'name', 'role', 'firm', 'acts', 'alarm', 'lines', 'lead', 'rest', 'logo'),
      wide: grid(
        [5, 6],
        'photo name',
        'photo role',
        'photo firm',
        'photo acts',
        'alarm lines',
        'logo lines',
        'lead lead',
        'rest rest',
      ),
      lying: grid([5, 8], 'photo name', 'photo role', 'photo firm', 'photo lines/1', 'photo logo'),
      standing: one('photo/3', 'name', 'role', 'firm', 'lines/2', 'logo'),
      back: one('logo/3', 'name', 'firm'),
    },
  },
  /** A letter: the firm heads it, words of one's own follow, the person signs. */
  bothy: {
    order: ['firm', 'logo', 'name', 'role', 'photo', 'acts', 'lead', 'alarm', 'lines', 'rest'],
    band: [],
    lead: 'about',
    photo: 'stands',
    name: 1.6,
    align: { logo: 'end' },
    lines: 'stacked',
    map: {
      narrow: grid(
        [3, 1],
        'firm logo',
        'name photo',
        'role photo',
        'acts acts',
        'lead lead',
        'alarm alarm',
        'lines lines',
        'rest rest',
      ),
      wide: grid(
        [7, 2, 4],
        'firm logo logo',
        'name photo acts',
        'role photo acts',
        'lead lead acts',
        'alarm alarm alarm',
        'lines lines lines',
        'rest rest rest',
      ),
      lying: grid([3, 1], 'firm logo/1', 'name name', 'role role', 'lines lines'),
      standing: one('logo', 'firm/1', 'name', 'role', 'lines'),
      back: grid([1, 2], 'logo firm'),
    },
  },
  /** An entry of a directory: a table of values to read off, the person beside it. */
  furrow: {
    order: ['name', 'photo', 'role', 'firm', 'acts', 'alarm', 'lines', 'rest', 'lead', 'logo'],
    band: [],
    lead: null,
    photo: 'stands',
    name: 1.35,
    align: { logo: 'start' },
    lines: 'table',
    map: {
      narrow: grid(
        [4, 1],
        'name photo',
        'role photo',
        'firm photo',
        'acts acts',
        'alarm alarm',
        'lines lines',
        'rest rest',
        'lead lead',
        'logo logo',
      ),
      wide: grid(
        [3, 2, 7],
        'name photo lines',
        'role photo lines',
        'firm photo lines',
        'acts acts lines',
        'alarm alarm lines',
        'logo logo rest',
        'lead lead rest',
      ),
      lying: grid([3, 5], 'name lines', 'role lines', 'firm lines', 'photo lines/1', 'logo lines'),
      standing: grid([3, 1], 'name photo', 'role photo', 'firm photo', 'lines lines/1', 'alarm alarm', 'logo logo'),
      back: grid([2, 1], 'firm logo'),
    },
  },
  /** A poster: the name as large as it goes, on nothing but colour. */
  crag: {
    order: ['logo', 'name', 'role', 'firm', 'acts', 'photo', 'lead', 'alarm', 'lines', 'rest'],
    band: ['logo', 'name', 'role', 'firm'],
    lead: null,
    photo: 'fills',
    name: 3,
    align: {},
    lines: 'columns',
    map: {
      narrow: one('logo', 'name', 'role', 'firm', 'acts', 'alarm', 'lines', 'photo', 'lead', 'rest'),
      wide: grid(
        [3, 2],
        'logo acts',
        'name acts',
        'role acts',
        'firm acts',
        'lines photo',
        'alarm photo',
        'lead lead',
        'rest rest',
      ),
      lying: one('logo', 'name/1', 'role', 'firm'),
      standing: one('logo', 'name/1', 'role', 'firm', 'lines'),
      back: one('lines/1'),
    },
  },
  /** Two halves: the face on one, the name on the other. */
  fold: {
    order: ['name', 'role', 'firm', 'photo', 'acts', 'alarm', 'lead', 'lines', 'rest', 'logo'],
    band: ['name', 'role', 'firm'],
    lead: null,
    photo: 'fills',
    name: 1.6,
    align: {},
    lines: 'stacked',
    map: {
      narrow: grid(
        [1, 1],
        'name photo',
        'role photo',
        'firm photo',
        'acts acts',
        'alarm alarm',
        'lead lead',
        'lines lines',
        'rest rest',
        'logo logo',
      ),
      wide: grid(
        [1, 1],
        'name photo',
        'role photo',
        'firm photo',
        'acts lines',
        'alarm lines',
        'logo lines',
        'lead lead',
        'rest rest',
      ),
      lying: grid([1, 1], 'name photo', 'role photo', 'firm photo', 'lines photo/1', 'logo photo'),
      standing: grid([1, 1], 'name photo', 'role photo', 'firm photo', 'lines lines/1', 'logo logo'),
      back: grid([1, 1], 'logo lines'),
    },
  },
  /** Led by what is sold: its pictures before the person. */
  bilberry: {
    order: ['logo', 'firm', 'name', 'role', 'photo', 'lead', 'acts', 'lines', 'alarm', 'rest'],
    band: ['logo', 'firm'],
    lead: 'products',
    photo: 'stands',
    name: 1.5,
    align: { firm: 'end' },
    lines: 'stacked',
    map: {
      narrow: grid(
        [2, 1, 1],
        'logo firm firm',
        'lead lead lead',
        'name name photo',
        'role role photo',
        'acts acts acts',
        'lines lines lines',
        'alarm alarm alarm',
        'rest rest rest',
      ),
      wide: grid(
        [5, 3, 1],
        'logo firm firm',
        'lead name photo',
        'lead role photo',
        'lead acts acts',
        'lead lines lines',
        'lead alarm alarm',
        'rest rest rest',
      ),
      lying: grid([5, 4], 'logo photo', 'firm photo', 'name photo', 'role photo', 'lines lines/1'),
      standing: one('logo', 'firm', 'photo/1', 'name', 'role', 'lines/1'),
      back: one('firm', 'logo/1'),
    },
  },
  /** For those on duty: the number for emergencies before everything. */
  lapwing: {
    order: ['alarm', 'name', 'role', 'firm', 'photo', 'acts', 'lines', 'lead', 'rest', 'logo'],
    band: ['alarm'],
    lead: 'hours',
    photo: 'stands',
    name: 1.5,
    align: {},
    lines: 'table',
    map: {
      narrow: grid(
        [3, 1],
        'alarm alarm',
        'name photo',
        'role photo',
        'firm photo',
        'acts acts',
        'lines lines',
        'lead lead',
        'rest rest',
        'logo logo',
      ),
      wide: grid(
        [4, 1, 5],
        'alarm alarm alarm',
        'name photo lines',
        'role photo lines',
        'firm photo lines',
        'acts acts lines',
        'lead lead rest',
        'logo logo rest',
      ),
      lying: grid([4, 1], 'alarm alarm', 'name photo', 'role photo', 'firm photo', 'lines lines/1'),
      standing: one('alarm', 'photo', 'name', 'role', 'firm', 'lines/1', 'logo'),
      back: grid([1, 1], 'alarm logo'),
    },
  },
  /** Led by a short film; who is in it stands below. */
  skylark: {
    order: ['name', 'role', 'firm', 'lead', 'photo', 'acts', 'alarm', 'rest', 'lines', 'logo'],
    band: ['lead', 'name', 'role', 'firm'],
    lead: 'video',
    photo: 'stands',
    name: 1.6,
    align: { name: 'centre', role: 'centre', firm: 'centre', photo: 'centre', logo: 'centre' },
    lines: 'columns',
    map: {
      narrow: one('lead', 'name', 'role', 'firm', 'acts', 'photo', 'alarm', 'rest', 'lines', 'logo'),
      wide: grid(
        [3, 2],
        'lead acts',
        'name photo',
        'role photo',
        'firm photo',
        'alarm logo',
        'rest rest',
        'lines lines',
      ),
      lying: grid([5, 6], 'photo lines/1', 'name lines', 'role lines', 'firm logo'),
      standing: one('logo', 'photo/1', 'name', 'role', 'firm', 'lines'),
      back: one('name', 'logo/1', 'lines'),
    },
  },
} as const satisfies Record<string, Layout>;

export type LayoutName = keyof typeof LAYOUTS;
export const LAYOUT_NAMES = Object.keys(LAYOUTS) as [LayoutName, ...LayoutName[]];
export const layoutOf = (name: LayoutName): Layout => LAYOUTS[name];
