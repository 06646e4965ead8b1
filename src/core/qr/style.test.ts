import { COSTS, costsOf, greyOf, PLAIN_STYLE, STYLE_BOUNDS, type CodeStyle } from './style';

test.each([
  // ITU-R BT.601, 2.5.1: Y = 0.299 R + 0.587 G + 0.114 B.
  ['#000000', 0],
  ['#FFFFFF', 255],
  ['#FF0000', 76],
  ['#00FF00', 150],
  ['#0000FF', 29],
  ['#808080', 128],
])('%s is %i to a camera', (colour, grey) => {
  expect(greyOf(colour)).toBe(grey);
});

const mark = { href: 'data:image/png;base64,AA', ratio: 1, percent: 10 };
test.each<[string, Partial<CodeStyle>, ReturnType<typeof costsOf>]>([
  ['as it is', {}, {}],
  ['a dark ink', { ink: '#17312C' }, { ink: 'nothing' }],
  ['a pale ink', { ink: '#B0B0B0' }, { ink: 'risky' }],
  // What reads on white may vanish on a colour: the step between both counts.
  ['a dark ink on a dark ground', { ink: '#17312C', ground: '#446655' }, { ink: 'risky', ground: 'nothing' }],
  [
    'light on dark, which many readers do not turn round',
    { ink: '#FFFFFF', ground: '#000000' },
    { ink: 'risky', ground: 'nothing' },
  ],
  ['on nothing of its own', { ground: null }, { ground: 'risky' }],
  ['finders of another dark colour', { finders: '#101060' }, { finders: 'nothing' }],
  ['finders that are harder to see than the rest may be', { finders: '#808080' }, { finders: 'risky' }],
  ['a gradient that stays dark', { gradient: { to: '#303030', way: 'down' } }, { gradient: 'harder' }],
  ['a gradient that ends pale', { gradient: { to: '#C0C0C0', way: 'outwards' } }, { gradient: 'risky' }],
  ['dots', { modules: 'dots', fill: STYLE_BOUNDS.fill.wanted }, { modules: 'harder' }],
  ['small dots', { modules: 'dots', fill: STYLE_BOUNDS.fill.wanted - 1 }, { modules: 'harder', fill: 'risky' }],
  ['soft corners, which have no gaps', { modules: 'soft', fill: 50 }, { modules: 'harder' }],
  ['rings as finders', { finderShape: 'round' }, { finderShape: 'harder' }],
  ['a mark', { mark }, { mark: 'harder' }],
  ['words below', { words: 'Scan me' }, { words: 'nothing' }],
])('what a style costs those who scan: %s', (_, style, costs) => {
  const told = costsOf({ ...PLAIN_STYLE, ...style });
  expect(told).toEqual(costs);
  for (const cost of Object.values(told)) expect(COSTS).toContain(cost);
});
