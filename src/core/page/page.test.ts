import { directionOf, languageName, pickLanguage } from '@/core/language';
import { gzipSync } from 'node:zlib';
import { compose, firstLines } from '@/core/card';
import { provePage, ONE_ROUND_TRIP } from '@/core/proof';
import type { Detail, PersonRecord } from '@/core/record';
import { renderPage, TAP_SCRIPT, type PageContext } from './index';

const HOSTILE = '<img src=//evil.example onerror=alert(1)>"\'&';
const text = (kind: 'title' | 'pronouns' | 'licence', id: string): Detail => ({
  kind,
  id,
  label: HOSTILE,
  preferred: false,
  text: HOSTILE,
});
const person: PersonRecord = {
  name: { prefix: '', given: HOSTILE, additional: '', family: 'Varrow', suffix: '', written: '' },
  details: [
    text('title', 'a'),
    text('pronouns', 'b'),
    text('licence', 'c'),
    {
      kind: 'link',
      id: 'd',
      label: '',
      preferred: false,
      url: 'https://tarnhope.example/?a="><script>1</script>',
      uses: [],
    },
    { kind: 'phone', id: 'e', label: '', preferred: false, number: '+442079460182', uses: [] },
  ],
  kept: [],
};
const context: PageContext = {
  contactFile: '/c/x.vcf',
  taps: '/c/x/tap',
  photo: null,
  logo: null,
  canonical: 'https://cards.example/c/x',
  language: 'en',
};
const pageOf = (record: PersonRecord) => {
  const composed = compose(record, firstLines(record, { isPrivate: true }), 'GB');
  if (!composed.ok) throw new Error(composed.problem.code);
  return { html: renderPage(composed.value, context), composition: composed.value };
};

test('nothing typed becomes mark-up: only our own elements stand in the page', () => {
  const { html } = pageOf(person);
  const elements = new Set([...html.matchAll(/<([a-z!][a-z0-9]*)/gi)].map((found) => found[1]!.toLowerCase()));
  expect([...elements].sort()).toEqual([
    '!doctype',
    'a',
    'body',
    'dd',
    'div',
    'dl',
    'dt',
    'footer',
    'h1',
    'head',
    'html',
    'link',
    'main',
    'meta',
    'nav',
    'p',
    'script',
    'small',
    'span',
    'style',
    'title',
  ]);
  expect(html.replace(/"[^"]*"/g, '""')).not.toMatch(/<[^>]*\son\w+=/i);
});

test('a record of forty lines fits one round trip (RFC 6928) and its proof says so', () => {
  const many: PersonRecord = {
    ...person,
    details: Array.from({ length: 40 }, (_, at) => ({
      kind: 'own' as const,
      id: `o${at}`,
      label: `Label ${at}`,
      preferred: false,
      text: `Some words of line ${at}, ${(at * 7919) % 1000}`,
    })),
  };
  const { html, composition } = pageOf(many);
  const weight = gzipSync(html, { level: 6 }).length;
  expect(weight).toBeLessThan(ONE_ROUND_TRIP);
  expect(provePage(html, weight, composition, []).passed).toBe(true);
  expect(provePage(html.replace('Some words of line 7,', ''), weight, composition, []).passed).toBe(false);
  expect(provePage(html, weight, composition, ['words of LINE-7']).passed).toBe(false);
});

/** Ways in which a page can hold a value, by the HTML standard: text, any attribute, comments, styles, scripts, character references. */
test.each([
  ['text', '<p>+44 7700 900555</p>'],
  ['an attribute that nobody sees', '<p data-note="+447700900555"></p>'],
  ['an attribute without quotes', '<img alt=+447700900555>'],
  ['an encoded address', '<a href="mailto:x@y.example?body=%2B44%207700%20900555">x</a>'],
  ['a comment', '<!-- +44 7700 900555 -->'],
  ['a style', '<style>p:after{content:"+447700900555"}</style>'],
  ['an inline style', '<p style="background:url(/x?+447700900555)"></p>'],
  ['a script', '<script>var a="\\u002b447700900555"</script>'],
  ['character references', '<p>&#x2b;&#52;47700900555</p>'],
])('what is withheld is found in %s', (_, planted) => {
  const { html, composition } = pageOf(person);
  const planting = html.replace('</main>', `${planted}</main>`);
  const leak = (page: string) =>
    provePage(page, null, composition, ['+44 7700 900555']).checks.find(({ name }) => name === 'unticked lines')!;
  expect([leak(html).passed, leak(planting).passed]).toEqual([true, false]);
});

test('whatever a browser would load from another host is found; what only names one is not', () => {
  const { html, composition } = pageOf(person);
  const hosts = (planted: string) =>
    provePage(html.replace('</main>', `${planted}</main>`), null, composition, []).checks.find(
      ({ name }) => name === 'other hosts',
    )!.passed;
  for (const planted of ['<img srcset="/a 1x, //b.example/c 2x">', '<style>@import "https://b.example/c"</style>'])
    expect([planted, hosts(planted)]).toEqual([planted, false]);
  for (const planted of ['<link rel="canonical" href="https://b.example/">', '<a href="https://b.example/">x</a>'])
    expect([planted, hosts(planted)]).toEqual([planted, true]);
});

test('a page in Arabic is written from right to left, its numbers from left to right, what was typed stays', () => {
  const titled: PersonRecord = {
    ...person,
    details: [
      { kind: 'title', id: 't', label: '', preferred: false, text: 'Rope inspector' },
      { kind: 'phone', id: 'p', label: '', preferred: false, number: '+442079460182', uses: ['work'] },
      { kind: 'email', id: 'm', label: 'Stand 14', preferred: false, address: 'ilse@tarnhope.example', uses: [] },
    ],
  };
  const { composition } = pageOf(titled);
  const html = renderPage(composition, { ...context, language: 'ar' });
  expect(html).toContain('<html lang="ar" dir="rtl">');
  expect(html).toContain('حفظ جهة الاتصال');
  expect(html).toMatch(
    /<dt>هاتف، العمل<\/dt><dd><a class="p-tel" href="tel:\+442079460182" data-l="p" dir="ltr">\+44 20 7946 0182/,
  );
  expect(html).toContain('<dt>Stand 14</dt>');
  expect(html).toContain('Rope inspector');
});

test('a page in a language that our own words do not exist in: named and directed as the platform knows it (CLDR), our words in English and marked so (WCAG 3.1.2)', () => {
  const { composition } = pageOf(person);
  const html = renderPage(composition, { ...context, language: 'he' });
  expect(html).toContain('<html lang="he" dir="rtl">');
  expect(html).toMatch(/<nav aria-label="Actions" lang="en"><a class="save"[^>]*>Save contact</);
  expect(renderPage(composition, { ...context, language: 'fr-CA' })).toMatch(
    /<nav aria-label="Actions"><a[^>]*>Enregistrer le contact</,
  );
  expect(['he', 'pt-BR', 'zh-Hant', 'pa-Arab', 'pl'].map((tag) => [languageName(tag), directionOf(tag)])).toEqual([
    ['עברית', 'rtl'],
    ['Português (Brasil)', 'ltr'],
    ['繁體中文', 'ltr'],
    ['پنجابی (عربی)', 'rtl'],
    ['Polski', 'ltr'],
  ]);
});

test('the language is the card’s, else the browser’s by its weights (RFC 9110 12.5.4), else English', () => {
  expect(pickLanguage('de', 'ar')).toBe('de');
  expect(pickLanguage(null, 'da, en-gb;q=0.8, en;q=0.7')).toBe('en'); // the example of RFC 9110 12.5.4
  expect(pickLanguage(null, 'da-DK, de;q=0.7, ar;q=0.9, *;q=0.5')).toBe('ar');
  expect(pickLanguage(null, 'de;q=0, tlh')).toBe('en');
  expect(pickLanguage(null, '')).toBe('en');
  expect(pickLanguage(null, 'zh-TW, zh;q=0.9', ['en', 'pt', 'zh'])).toBe('zh');
  expect(pickLanguage(null, 'pt-BR', ['en', 'pt', 'pt-BR'])).toBe('pt-BR');
});

test('the script for taps is at most 1 KB', () => {
  expect(TAP_SCRIPT.length).toBeLessThanOrEqual(1_024);
});
