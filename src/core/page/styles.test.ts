import { generate, lexer, parse, walk, type CssNode, type Declaration } from 'css-tree';
import fc from 'fast-check';
import { composeDraft, type Composition } from '@/core/card';
import { OUR_LANGUAGES } from '@/core/language';
import { coloursOf, contrast, FAMILIES, layoutOf, nightLook, type Look } from '@/core/look';
import { anyCard, blocksOf } from '../../../tests/fixtures/any-card';
import { anyLook } from '../../../tests/fixtures/any-look';
import { BROAD, fontsFor, lookStyle } from './look-style';
import { noticeStyles, pageParts, stylesOf, type PageContext } from './index';

/*
 * Style sheets read by a parser that knows the syntax of every property of the CSS specifications (css-tree, with the data of
 * the Mozilla Developer Network).
 */
type Sheet = {
  declarations: { name: string; value: string; within: string; media: string }[];
  uses: Set<string>;
  faults: string[];
};

function read(css: string): Sheet {
  const sheet: Sheet = { declarations: [], uses: new Set(), faults: [] };
  const tree = parse(css, { onParseError: (error) => sheet.faults.push(error.message), parseCustomProperty: true });
  walk(tree, {
    enter(this: { rule: CssNode | null; atrule: CssNode | null }, node: CssNode) {
      if (node.type === 'Raw') sheet.faults.push(`what no rule is: ${node.value.slice(0, 60)}`);
      if (node.type === 'Function' && node.name === 'var') sheet.uses.add(generate(node.children.first!));
      if (node.type !== 'Declaration') return;
      const { property, value } = node as Declaration;
      const within = this.rule && 'prelude' in this.rule ? generate(this.rule.prelude as CssNode) : '';
      const media = this.atrule && 'prelude' in this.atrule && this.atrule.prelude ? generate(this.atrule.prelude) : '';
      sheet.declarations.push({ name: property, value: generate(value), within, media });
    },
  });
  return sheet;
}

/** Values with their variables in place, since nothing can be said of a value with one. */
function resolved(value: string, variables: ReadonlyMap<string, string>): string {
  let text = value;
  for (let depth = 0; depth < 5 && text.includes('var('); depth += 1)
    text = text.replace(/var\((--[\w-]+)(?:,[^()]*)?\)/g, (whole, name: string) => ` ${variables.get(name) ?? whole} `);
  return text;
}

/** What of a page's sheets no browser knows, and variables that nobody sets. */
function faultsOf(sheets: string[]): string[] {
  const all = sheets.map(read);
  const declarations = all.flatMap((sheet) => sheet.declarations);
  const variables = new Map(
    declarations.filter(({ name }) => name.startsWith('--')).map(({ name, value }) => [name, value]),
  );
  const unset = all.flatMap(({ uses }) => [...uses]).filter((name) => !variables.has(name));
  const unknown = declarations.flatMap(({ name, value, within }) => {
    // Descriptors of @font-face are no properties; vendors' own are nobody's standard.
    if (name.startsWith('-') || within === '') return [];
    const match = lexer.matchProperty(name, resolved(value, variables));
    return match.error ? `${within}{${name}:${resolved(value, variables)}} ${match.error.message.split('\n')[0]}` : [];
  });
  return [...all.flatMap(({ faults }) => faults), ...unset.map((name) => `${name} is not set`), ...unknown];
}

const context = (language: string, more: Partial<PageContext> = {}): PageContext => ({
  ...{ contactFile: '/c/any.vcf', taps: '/c/any/tap', photo: '/p.jpg', logo: '/l.png', language },
  ...{ canonical: 'https://cards.example/c/any', fileAt: (hash) => `/c/any/${hash.slice(0, 8)}` },
  ...more,
});
const composed = (card: { record: Parameters<typeof composeDraft>[0]; draft: Parameters<typeof composeDraft>[1] }) => {
  const made = composeDraft(card.record, card.draft, 'GB');
  if (!made.ok) throw new Error(made.problem.code);
  return made.value;
};
const styled = (look: Look, filled: Parameters<typeof lookStyle>[1]['filled'], more = {}): Sheet =>
  read(lookStyle(look, { filled, name: 'Ilse Varrow', language: 'en', ground: '/g.jpg', ...more }));
const EVERYTHING = new Set([
  'photo',
  'logo',
  'name',
  'role',
  'firm',
  'alarm',
  'lead',
  'acts',
  'lines',
  'rest',
] as const);

test('whatever a card says in whatever look, every rule of its page is one that browsers know, with every variable set (property)', () => {
  const card = fc
    .record({ card: anyCard, blocks: blocksOf, look: anyLook })
    .map(({ card: { record, draft }, blocks, look }): Composition =>
      composed({ record, draft: { ...draft, blocks, look } }),
    );
  const first = {
    pictures: [{ name: 'photo', data: 'AAAA' }],
    type: { data: 'AAAA', letters: 'Ilse Värow🐑' },
  };
  fc.assert(
    fc.property(
      card,
      fc.constantFrom(...OUR_LANGUAGES),
      fc.boolean(),
      fc.boolean(),
      (composition, language, starts, plated) => {
        const given = context(language, {
          ...(starts ? { first } : {}),
          ...(plated ? { plates: { day: '#FFFFFF', night: '#14100D' } } : {}),
        });
        expect(faultsOf(stylesOf(composition, given))).toEqual([]);
        // What the page carries is what its policy names.
        expect(pageParts(composition, given).styles).toEqual(stylesOf(composition, given));
      },
    ),
    { numRuns: 40 },
  );
  for (const language of OUR_LANGUAGES) expect(faultsOf(noticeStyles(null, language))).toEqual([]);
});

test('the reader of styles finds what browsers do not know: a misspelt value, a rule that does not end, a variable of nobody', () => {
  expect(faultsOf(['main{display:gird}'])).toHaveLength(1);
  expect(faultsOf(['main{colour:red}'])).toHaveLength(1);
  expect(faultsOf(['main{color:var(--never)}'])).toEqual(expect.arrayContaining(['--never is not set']));
  expect(faultsOf(['main{color:red}}a'])).not.toEqual([]);
  expect(faultsOf([':root{--a:#12345}main{color:var(--a)}'])).toHaveLength(1);
  expect(faultsOf([':root{--a:#123456}main{color:var(--a)}'])).toEqual([]);
});

test('areas on the page lie in rectangles and in the columns that there are, each once, and the band where its areas are (CSS Grid Layout 1, 7.3)', () => {
  fc.assert(
    fc.property(anyLook, fc.subarray([...EVERYTHING]), (look, some) => {
      const filled = new Set([...some, 'name'] as const);
      const { declarations } = styled(look, filled);
      for (const media of ['', `(min-width:${BROAD}px)`]) {
        const of = (selector: string, name: string) =>
          declarations.find((each) => each.media === media && each.within === selector && each.name === name)?.value;
        const rows = [...of('main', 'grid-template')!.matchAll(/"([^"]*)"/g)].map(([, row]) => row!.split(' '));
        const columns = of('main', 'grid-template-columns')!.match(/minmax/g)!.length;
        expect([...new Set(rows.map((row) => row.length))]).toEqual([columns]);
        const cells = rows.flatMap((row, y) => row.map((area, x) => ({ area, x, y })));
        for (const area of filled) {
          const own = cells.filter((cell) => cell.area === area);
          const [xs, ys] = [own.map(({ x }) => x), own.map(({ y }) => y)];
          const box = (Math.max(...xs) - Math.min(...xs) + 1) * (Math.max(...ys) - Math.min(...ys) + 1);
          expect([area, own.length]).toEqual([area, box]);
          expect(of(`.${area}`, 'grid-area')).toBe(area);
        }
        expect(cells.filter(({ area }) => area !== '.' && !(filled as Set<string>).has(area))).toEqual([]);
        const ground = of('.ground', 'grid-area')?.split('/').map(Number) as
          [number, number, number, number] | undefined;
        const { band } = layoutOf(look.layout);
        if (ground) {
          const [top, left, bottom, right] = ground;
          const on = cells.filter(({ x, y }) => x + 1 >= left && x + 1 < right && y + 1 >= top && y + 1 < bottom);
          expect(on.every(({ area }) => area === '.' || (band as readonly string[]).includes(area))).toBe(true);
        }
      }
    }),
    { numRuns: 60 },
  );
});

test('colours of a page are those of its look by day and by night; what stands on what reads (WCAG 2.2, 1.4.3)', () => {
  fc.assert(
    fc.property(anyLook, (look) => {
      const { declarations } = styled(look, EVERYTHING);
      const valuesIn = (media: string) =>
        new Map(
          declarations
            .filter((each) => each.media === media && each.within === ':root')
            .map((each) => [each.name, each.value]),
        );
      const night = nightLook(look);
      const [day, dark] = [valuesIn(''), valuesIn('(prefers-color-scheme:dark)')];
      expect(dark.size > 0).toBe(night !== look);
      for (const [values, worn] of [[day, look], ...(night === look ? [] : [[dark, night] as const])] as const) {
        const { sheet, ink, soft, onBand, act, onAct, edge, accent, band } = coloursOf(worn.palette);
        expect(
          ['--s', '--i', '--q', '--ob', '--a', '--oa', '--e', '--t', '--b'].map((name) => values.get(name)),
        ).toEqual([sheet, ink, soft, onBand, act, onAct, edge, accent, band]);
        for (const [front, back] of [
          ['--i', '--s'],
          ['--q', '--s'],
          ['--t', '--s'],
          ['--oa', '--a'],
        ] as const)
          expect(contrast(values.get(front)!, values.get(back)!)).toBeGreaterThanOrEqual(4.5);
      }
    }),
  );
});

test('a page asks for the files of its two families, of the letters that it has, and of no other', () => {
  fc.assert(
    fc.property(
      anyLook,
      fc.subarray(['Ilse', 'Žofie', 'إلسه', '42', '\u{10ffff}']),
      fc.boolean(),
      (look, words, strong) => {
        const files = fontsFor(look, words.join(' '), strong);
        const has = { latin: /[a-z0-9]/i, 'latin-ext': /Ž/, arabic: /إ/ };
        const subsets = Object.entries(has).filter(([, letters]) => letters.test(words.join(' ')));
        expect(files).toHaveLength(subsets.length * (strong ? 2 : 1));
        for (const [as, file] of files) {
          const family = as === 'T' ? look.title : look.text;
          expect(file.includes('vazirmatn') || file.includes(family)).toBe(true);
          expect(file).toMatch(/^\/fonts\/[\w.-]+\.woff2$/);
        }
        const { declarations } = styled(look, EVERYTHING);
        const families = declarations.filter(({ name, within }) => name === '--T' && within === ':root').at(-1)!;
        expect(families.value.startsWith('T,')).toBe(true);
        expect(families.value.includes('serif')).toBe(true);
        expect(families.value.includes('Georgia')).toBe(FAMILIES[look.title].kind === 'serif');
      },
    ),
  );
});

test('a long name is set smaller, step by step, so that the buttons stay in sight', () => {
  const sizeOf = (name: string, look: Look) => {
    const { declarations } = styled(look, EVERYTHING, { name });
    return Number(declarations.find((each) => each.name === '--n')!.value);
  };
  fc.assert(
    fc.property(anyLook, fc.integer({ min: 1, max: 120 }), (look, letters) => {
      const [one, more] = [sizeOf('n'.repeat(letters), look), sizeOf('n'.repeat(letters + 10), look)];
      expect([more <= one, one <= layoutOf(look.layout).name]).toEqual([true, true]);
      if (letters > 90) expect(one).toBeLessThanOrEqual(1.15);
    }),
  );
});
