/** Somebody of the demo: all invented, addresses under .example, numbers from the ranges reserved for fiction. */
export type DemoPerson = {
  given: string;
  family: string;
  title: string;
  valley: keyof typeof VALLEYS;
  phone: string;
  mobile?: string;
  privateMobile?: string;
  licence?: string;
  helmet?: boolean;
};

/** The three depots of Tarnhope Cableways. */
export const VALLEYS = {
  Skell: { street: '2 Lower Station Yard', town: 'Skell Bridge', postcode: 'SB1 4TW', office: '+44 1632 960100' },
  Arne: { street: 'The Winding House', town: 'Arne Head', postcode: 'AH3 9RP', office: '+44 1632 960200' },
  Brack: { street: '17 Pylon Row', town: 'Brackwater', postcode: 'BW2 6LD', office: '+44 1632 960300' },
} as const;

/** Those that are offices of their own, with their hours: cards of their people take address and switchboard from them. */
export const DEPOTS: Partial<Record<keyof typeof VALLEYS, string>> = {
  Arne: '',
  Brack: 'Mon-Fri 7:30-16:00\nSat 8:00-12:00',
};

export const EMERGENCY_LINE = '+44 20 7946 0112';

const inspector = (number: number) => `Ropeway inspector C-${number}`;

export const TARNHOPE_PEOPLE: DemoPerson[] = [
  {
    given: 'Maud',
    family: 'Aldercott',
    title: 'Managing director',
    valley: 'Skell',
    phone: '+44 1632 960101',
    mobile: '+44 7700 900101',
  },
  {
    given: 'Ilse',
    family: 'Varrow',
    title: 'Lead rope inspector',
    valley: 'Skell',
    phone: '+44 20 7946 0182',
    privateMobile: '+44 7700 900182',
    licence: inspector(4471),
  },
  {
    given: 'Corin',
    family: 'Hathersage',
    title: 'Rope inspector',
    valley: 'Skell',
    phone: '+44 1632 960103',
    mobile: '+44 7700 900103',
    licence: inspector(4502),
  },
  {
    given: 'Anneli',
    family: 'Brockbank',
    title: 'Rope inspector',
    valley: 'Arne',
    phone: '+44 1632 960204',
    mobile: '+44 7700 900104',
    licence: inspector(4519),
  },
  {
    given: 'Tobias',
    family: 'Quern',
    title: 'Rope inspector',
    valley: 'Brack',
    phone: '+44 1632 960305',
    privateMobile: '+44 7700 900105',
    licence: inspector(4533),
  },
  {
    given: 'Sunniva',
    family: 'Tyle',
    title: 'Drive and brake inspector',
    valley: 'Arne',
    phone: '+44 1632 960206',
    mobile: '+44 7700 900106',
    licence: inspector(4540),
  },
  {
    given: 'Fergus',
    family: 'Mollan',
    title: 'Head rigger',
    valley: 'Skell',
    phone: '+44 1632 960107',
    mobile: '+44 7700 900107',
    helmet: true,
  },
  {
    given: 'Dalia',
    family: 'Roebuck',
    title: 'Rigger',
    valley: 'Skell',
    phone: '+44 1632 960108',
    privateMobile: '+44 7700 900108',
    helmet: true,
  },
  {
    given: 'Pavel',
    family: 'Osgerby',
    title: 'Rigger',
    valley: 'Arne',
    phone: '+44 1632 960209',
    mobile: '+44 7700 900109',
    helmet: true,
  },
  {
    given: 'Nkechi',
    family: 'Wainfleet',
    title: 'Rigger',
    valley: 'Brack',
    phone: '+44 1632 960310',
    mobile: '+44 7700 900110',
    helmet: true,
  },
  {
    given: 'Joss',
    family: 'Elvaston',
    title: 'Rigger',
    valley: 'Brack',
    phone: '+44 1632 960311',
    privateMobile: '+44 7700 900111',
    helmet: true,
  },
  {
    given: 'Ottoline',
    family: 'Frayne',
    title: 'Splicer',
    valley: 'Arne',
    phone: '+44 1632 960212',
    mobile: '+44 7700 900112',
    helmet: true,
  },
  {
    given: 'Hamish',
    family: 'Dunnock',
    title: 'Splicer',
    valley: 'Skell',
    phone: '+44 1632 960113',
    mobile: '+44 7700 900113',
  },
  {
    given: 'Renske',
    family: 'van der Aa',
    title: 'Chairlift engineer',
    valley: 'Arne',
    phone: '+44 1632 960214',
    mobile: '+44 7700 900114',
  },
  {
    given: 'Idris',
    family: 'Pellew',
    title: 'Funicular engineer',
    valley: 'Skell',
    phone: '+44 1632 960115',
    mobile: '+44 7700 900115',
  },
  {
    given: 'Wilhelmina',
    family: 'Sorrel',
    title: 'Carriage restorer',
    valley: 'Brack',
    phone: '+44 1632 960316',
    privateMobile: '+44 7700 900116',
  },
  { given: 'Aurelio', family: 'Stanmore', title: 'Joiner', valley: 'Brack', phone: '+44 1632 960317' },
  { given: 'Bryony', family: 'Lathkill', title: 'Parts desk', valley: 'Skell', phone: '+44 1632 960118' },
  { given: 'Kit', family: 'Ombersley', title: 'Parts desk', valley: 'Arne', phone: '+44 1632 960219' },
  { given: 'Yusuf', family: 'Garrowby', title: 'Stores', valley: 'Brack', phone: '+44 1632 960320' },
  {
    given: 'Clemence',
    family: 'Thrale',
    title: 'Contracts',
    valley: 'Skell',
    phone: '+44 1632 960121',
    mobile: '+44 7700 900121',
  },
  {
    given: 'Ruaridh',
    family: 'Inchcape',
    title: 'Planning and permits',
    valley: 'Arne',
    phone: '+44 1632 960222',
    mobile: '+44 7700 900122',
  },
  {
    given: 'Saoirse',
    family: 'Keld',
    title: 'Apprentice rigger',
    valley: 'Arne',
    phone: '+44 1632 960223',
    helmet: true,
  },
  {
    given: 'Emeka',
    family: 'Holloway',
    title: 'Apprentice splicer',
    valley: 'Skell',
    phone: '+44 1632 960124',
    helmet: true,
  },
];

/** People with a second card for the trade fair, and where its codes stand. */
export const FAIR = {
  audience: 'Cable Days fair',
  people: ['Aldercott', 'Varrow', 'Brockbank', 'Pellew', 'Thrale'],
  placements: ['Stand banner', 'Back of the paper card', 'Helmet desk'],
  pieces: [
    ['print', 'Card from the depot'],
    ['backdrop', 'Calls with customers'],
    ['pass', 'Ilse’s phone'],
  ] as const,
};

/** Rows of the personnel system for the winter season; the columns are those of `demo/roster.ts`. */
export const ROSTER_ROWS = [
  '0042;Varrow;Ilse;Lead rope inspector, winter;Ropes;Tarnhope Cableways;;;ilse.varrow@tarnhope.example;Ropes;;x',
  '0311;Fennimore;Odo;Cabin attendant;Guests;Tarnhope Cableways;020 7946 0311;07700 900311;odo.fennimore@tarnhope.example;Guests;2026-12-01;x',
  '0312;Ashby;Marit;Snow groomer;Slopes;Tarnhope Cableways;20 7946 0312;;marit.ashby@tarnhope.example;Slopes;2026-12-01;x',
  '0313;Weißdorn;Jona;Ski patroller;Rescue;Tarnhope Cableways;4,42079E+11;;jona.weissdorn@tarnhope.example;Rescue;2026-12-01;x',
  '0314;Quern;Tobias;Ticket desk;Guests;Tarnhope Cableways;020 7946 0314;;tobias.quern2@tarnhope.example;Guests;2026-12-07;x',
  '0315;Quill;Benna;Lift mechanic;Ropes;Tarnhope Cableways;020 7946 0315;;benna.quill@tarnhope.example;Ropes; ;x',
  '0315;Quill;Bente;Lift mechanic;Ropes;Tarnhope Cableways;020 7946 0316;;bente.quill@tarnhope.example;Ropes;2026-12-07;x',
  '0317;Lorne;Ysolde;Weather desk;Slopes;Tarnhope Cableways;020 7946 0317;;ysolde.lorne@tarnhope.example;Slopes;2026-12-07;x',
];
