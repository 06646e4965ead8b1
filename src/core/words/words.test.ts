import { readdirSync, readFileSync } from 'node:fs';
import ts from 'typescript';
import { ACTS, ROLES } from '@/core/access';
import * as all from './index';

/** Every text and every sentence that is put together, by its place. */
function texts(of: unknown, at: string): [string, string | ((...of: never[]) => unknown)][] {
  if (typeof of === 'string') return [[at, of]];
  if (typeof of === 'function') return [[at, of as (...of: never[]) => unknown]];
  if (typeof of !== 'object' || of === null) return [];
  return Object.entries(of).flatMap(([key, value]) => texts(value, `${at}.${key}`));
}
const EVERY = Object.entries(all).flatMap(([name, words]) => texts(words, name));
const fixed = EVERY.filter((each): each is [string, string] => typeof each[1] === 'string');

// Common practice of good writing, no published source: curved apostrophes, one blank, an ellipsis of one letter, no shouting.
test('what the studio says is written with care: no double blanks, no typewriter’s apostrophes, nothing cried out', () => {
  expect(fixed.length).toBeGreaterThan(800);
  for (const [at, text] of fixed) {
    const wrong = /  | $|\.\.\.|[A-Za-z]'[a-z]|!(?!=)|\bplease\b|\bclick here\b|\bsuccessfully\b|\boops\b/i.exec(
      text
        .replaceAll('{', '')
        .replace(/^ /, '')
        .replace(/ {2}\/$/, ''),
    );
    expect([at, wrong?.[0] ?? null]).toEqual([at, null]);
  }
});

test('no mail program, phone, network or other program is named in any of it', () => {
  // Names of kinds of thing are written small; a name of a product would be a capital within a sentence that is no name of ours.
  const OURS =
    /^(Heathland|QR|NFC|NDEF|PDF|PNG|SVG|JPEG|HTML|CSV|XLSX|DNS|URL|URI|TLS|JSON|UID|WCAG|AVIF|WebP|HEIC|MB|KB|WPA|WEP|Wi-Fi|IT|AA|EPS|TIFF|CMYK|RGB|WebVTT|I|E\.164|Ctrl|Alt|Enter|Esc|Space|Shift|Tab)$/;
  for (const [at, text] of fixed) {
    const inside = [...text.matchAll(/(?<=[a-z,;] )([A-Z][A-Za-z-]{2,}(?:\.\d+)?)/g)].map(([, word]) => word!);
    const strange = inside.filter((word) => !OURS.test(word) && !/^[A-Z]{2,6}s?$/.test(word));
    expect([
      at,
      strange.filter((word) =>
        /^(Out|Apple|Goog|Gmail|Face|Linked|Whats|Insta|Micro|Windows|Android|Iphone|Chrome|Safari|Firefox)/i.test(
          word,
        ),
      ),
    ]).toEqual([at, []]);
  }
});

test('every act of the audit trail, and every role, is worded', () => {
  for (const act of ACTS) expect([act, all.ACT_WORDS[act].length > 3]).toEqual([act, true]);
  for (const role of ROLES) expect([role, all.ROLE_NOTES[role].length > 10]).toEqual([role, true]);
});

/** Arguments to try by the type that the source writes: what is said of none, of one, of two and of thousands. */
const SAMPLES: Record<string, unknown[]> = {
  string: ['Zq'],
  number: [0, 1, 2, 7_919],
  boolean: [true, false],
  'string[]': [[], ['Zq'], ['Zq', 'Zr', 'Zs']],
  'number[]': [[1], [2, 3]],
  'readonly number[]': [[], [1], [2, 3]],
  'string | null': [null, 'Zq'],
  'number | null': [null, 1, 7_919],
  'number | undefined': [undefined, 3],
  Channel: ['page', 'tag'],
  'Channel[]': [['page'], ['file', 'print']],
  PublicChannel: ['page', 'file'],
  'PublicChannel[]': [['page'], ['page', 'file']],
  Variant: ['message', 'reply'],
};
const samplesFor = (type: string): unknown[] | undefined => {
  const literals = /^\(?'[^']*'( \| '[^']*')*\)?(\[\])?$/.test(type)
    ? [...type.matchAll(/'([^']*)'/g)].map(([, each]) => each)
    : null;
  if (!literals) return SAMPLES[type];
  return type.endsWith('[]') ? [[literals[0]], literals] : literals;
};

/** The types of the arguments of every sentence that is put together, by its place, as its source writes them. */
function argumentsOf(file: string): [place: string, types: string[]][] {
  const found: [string, string[]][] = [];
  const visit = (node: ts.Node, place: string[]): void => {
    if (ts.isVariableDeclaration(node)) return node.initializer && visit(node.initializer, [node.name.getText()]);
    if (ts.isAsExpression(node) || ts.isSatisfiesExpression(node)) return visit(node.expression, place);
    if (ts.isPropertyAssignment(node))
      return visit(node.initializer, [...place, node.name.getText().replace(/'/g, '')]);
    if (ts.isArrowFunction(node))
      return void found.push([
        place.join('.'),
        node.parameters.map(({ type }) => type?.getText().replace(/\s+/g, ' ') ?? ''),
      ]);
    if (ts.isCallExpression(node) || ts.isFunctionDeclaration(node)) return;
    ts.forEachChild(node, (child) => visit(child, place));
  };
  visit(ts.createSourceFile(file, readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true), []);
  return found;
}

/** Sentences with samples in place, each with how it was asked for. */
const SENTENCES: [asked: string, text: string][] = (() => {
  const said = new Map(EVERY);
  const files = readdirSync('src/core/words', { recursive: true, encoding: 'utf8' }).filter((file) =>
    /(?<!\.test)\.ts$/.test(file),
  );
  return files
    .flatMap((file) => argumentsOf(`src/core/words/${file}`))
    .flatMap(([place, types]): [string, string][] => {
      const say = said.get(place) as ((...given: unknown[]) => unknown) | string | undefined;
      const samples = types.map(samplesFor);
      if (typeof say !== 'function' || samples.some((each) => !each)) return [];
      const given = samples.reduce<unknown[][]>(
        (lists, each) => lists.flatMap((list) => each!.map((one) => [...list, one])),
        [[]],
      );
      return given.flatMap((list): [string, string][] => {
        // What a table has no entry for is never asked for.
        if (place === 'COPIES.kind') return [];
        const text = say(...list);
        return [[`${place}(${JSON.stringify(list)})`, typeof text === 'string' ? text : JSON.stringify(text)]];
      });
    });
})();
/** What of every sentence breaks a rule. */
const breaking = (rule: RegExp) => SENTENCES.flatMap(([asked, text]) => (rule.test(text) ? [`${asked} ${text}`] : []));

test('a sentence says what it was given and no word of the machine', () => {
  expect(SENTENCES.length).toBeGreaterThan(1_500);
  expect(breaking(/undefined|NaN|\[object|=>|\$\{|\bnull\b(?![,\])])/)).toEqual([]);
  expect(breaking(/ {2}(?!\/)|[A-Za-z]'[a-z]|(?<!\.)\.\.(?!\.)/)).toEqual([]);
});

// Plural rules of English (Unicode CLDR): one is singular, all else plural, none included.
test('of one thing the singular is said, of more the plural', () => {
  expect(
    breaking(
      /(?<!of |Revision |Version |version |[\d.,])\b1 (?!is\b|was\b|has\b|does\b|fails\b|bytes\b|modules\b|pixels\b|pairs\b)[a-z]+s\b/,
    ),
  ).toEqual([]);
  const nouns =
    'card|line|person|copy|day|view|visit|picture|contact|record|proof|member|code|tag|hand-out|office|detail|value|lead|reply|file|page';
  expect(breaking(new RegExp(`(?<![\\d.,] |[\\d.,])\\b(?:0|2|7,919) (?:${nouns})\\b(?! of the)`))).toEqual([]);
});

test('thousands are parted wherever things are counted (as the figures of a report are)', () => {
  // A revision’s number, a size in pixels and the codewords of a code are no counts.
  const counted = breaking(/(?<![\d.,]|evision |ersion )7919 (?!bytes|modules|pixels|tries|codewords|pairs)\p{L}{4,}/u);
  expect(counted.filter((each) => !each.startsWith('LOOK.faceSize'))).toEqual([]);
  // A file’s name has no comma in it.
  expect(SENTENCES.filter(([asked, text]) => asked.startsWith('PACK.fileName') && !/^[\w.-]+$/.test(text))).toEqual([]);
});
