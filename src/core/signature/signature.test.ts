import fc from 'fast-check';
import { composeDraft, firstLines, linesOn, saidIn, squeeze, withheldFrom, type Composition } from '@/core/card';
import { contrast, FIRST_LOOK, LAYOUT_NAMES, PALETTES } from '@/core/look';
import { ENGINE_TAKES, proveSignature, readSignature, SIGNATURE_ROOM } from '@/core/proof/signature';
import { shownValue, writtenName, type PersonRecord } from '@/core/record';
import { anyCard } from '../../../tests/fixtures/any-card';
import { FIRST_SIGNATURE, MAIL_GROUNDS, NEEDS, stripAt, textIn, writeSignature, type SignatureContext } from './index';
import { accentOf, QUIET } from './colours';

const LINK = 'https://c.tarnhope.example/h/7K3M9QXZ';
const CONTEXT: SignatureContext = {
  language: 'en',
  link: LINK,
  photo: { src: `${LINK}/file-a`, width: 72, height: 72 },
  logo: { src: `${LINK}/file-b`, width: 120, height: 36 },
};
const PERSON: PersonRecord = {
  name: { prefix: '', given: 'Ilse', additional: '', family: 'Varrow', suffix: '', written: '' },
  details: [
    { id: 't', kind: 'title', label: '', preferred: false, text: 'Rope access lead' },
    { id: 'o', kind: 'organisation', label: '', preferred: false, name: 'Tarnhope Cableways', units: [] },
    { id: 'w', kind: 'phone', label: '', preferred: false, number: '+442079460182', extension: '', uses: ['work'] },
    { id: 'm', kind: 'phone', label: '', preferred: false, number: '+447700900182', extension: '', uses: ['mobile'] },
    { id: 'e', kind: 'email', label: '', preferred: false, address: 'ilse@tarnhope.example', uses: ['work'] },
    { id: 'p', kind: 'email', label: '', preferred: false, address: 'ilse@home.example', uses: ['home'] },
  ] as PersonRecord['details'],
  kept: [],
};
const made = (record: PersonRecord, draft: Parameters<typeof composeDraft>[1]): Composition => {
  const composed = composeDraft(record, draft, 'GB');
  if (!composed.ok) throw new Error(composed.problem.code);
  return composed.value;
};
const lines = firstLines(PERSON, { isPrivate: true });
const DRAFT = { lines, audience: 'x', language: null, blocks: [], opens: { first: 'page' as const }, words: {} };
const whole = (look = FIRST_LOOK): Composition => ({ ...made(PERSON, { ...DRAFT, look }), language: 'en' });
const all = { picture: true, link: true, contact: false };
const write = (composition: Composition, more: Partial<SignatureContext> = {}, layout: 'beside' | 'below' = 'beside') =>
  writeSignature(composition, { layout, parts: all }, { ...CONTEXT, ...more });
const prove = (composition: Composition, signature: ReturnType<typeof write>, more: object = {}) =>
  proveSignature(signature, {
    ...{ composition: saidIn(composition, composition.language ?? 'en'), withheld: [] },
    ...{ link: LINK, pictures: 'linked', pictureBytes: 0, ...more },
  });
const failing = (proof: ReturnType<typeof prove>) =>
  proof.checks.filter(({ passed }) => !passed).map(({ name }) => name);

test('at first a signature says who it is and how they are reached at work; nothing private, not even of a private card', () => {
  const { text, short } = write(whole());
  expect(text).toBe(
    `Ilse Varrow\nRope access lead, Tarnhope Cableways\nPhone, work: +44 20 7946 0182\nE-mail, work: ilse@tarnhope.example\n${LINK}`,
  );
  expect(short).toBe(`Ilse Varrow\nRope access lead, Tarnhope Cableways\n${LINK}`);
});

test('any card passes its proof in both layouts, whatever is typed into it, in either direction', () => {
  fc.assert(
    fc.property(anyCard, fc.constantFrom('beside' as const, 'below' as const), ({ record, draft }, layout) => {
      const composition = { ...made(record, draft), language: draft.language };
      const signature = write(composition, { language: draft.language ?? 'en' }, layout);
      const withheld = withheldFrom(record, draft.lines, 'signature', 'GB');
      expect(failing(prove(composition, signature, { withheld }))).toEqual([]);
    }),
    { numRuns: 80 },
  );
});

/** Each check notices when the thing that it is about is broken. */
test.each<[string, (signature: ReturnType<typeof write>) => ReturnType<typeof write>, object?]>([
  ['pictures blocked', (s) => ({ ...s, html: s.html.replace('Rope access lead', '') })],
  [
    'pictures blocked',
    (s) => ({
      ...s,
      html: s.html.replace(
        /<td[^>]*>Tarnhope Cableways<\/td>/,
        '<td><img src="cid:x" alt="Tarnhope Cableways" width="1" height="1"></td>',
      ),
    }),
  ],
  ['as text', (s) => ({ ...s, text: s.text.replace('7946', '7964') })],
  [
    'unticked lines',
    (s) => ({ ...s, html: s.html.replace('alt="Ilse Varrow"', 'alt="+44 7700 900182"') }),
    { withheld: ['+447700900182'] },
  ],
  ['unticked lines', (s) => ({ ...s, short: `${s.short}\nilse@home.example` }), { withheld: ['ilse@home.example'] }],
  ['word processor', (s) => ({ ...s, html: s.html.replace('padding:0', 'display:flex') })],
  ['word processor', (s) => ({ ...s, html: s.html.replace(' width="72"', '') })],
  ['word processor', (s) => ({ ...s, html: `<svg></svg>${s.html}` })],
  ['dark', (s) => ({ ...s, html: s.html.replaceAll(/color:#[0-9A-F]{6}/gi, 'color:#111111') })],
  ['size', (s) => s, { pictureBytes: 30_000 }],
  ['other sites', (s) => ({ ...s, html: s.html.replace(`${LINK}/file-a`, 'https://elsewhere.example/pixel.gif') })],
])('a signature whose “%s” is broken fails just there', (name, breaking, more = {}) => {
  expect(failing(prove(whole(), breaking(write(whole())), more))).toEqual([name]);
});

const BELOW = ['Registered in Hythe', 'For its reader alone.'];
const STRIP = {
  ...{ text: 'Cable Days', link: 'https://tarnhope.example/days' },
  picture: { src: `${LINK}/strip-days`, width: 480, height: 120 },
};

test('what the organisation says below, and its notice, stand in both forms, and pass the engine’s rules in both layouts', async () => {
  const { caniemail } = await import('caniemail');
  for (const layout of ['beside', 'below'] as const)
    for (const strip of [STRIP, { ...STRIP, picture: null }, { ...STRIP, link: '', picture: null }]) {
      const signature = write(whole(), { below: BELOW, strip }, layout);
      expect(failing(prove(whole(), signature, { below: BELOW }))).toEqual([]);
      for (const said of [...BELOW, strip.text])
        expect([signature.html.includes(said), signature.text.includes(said)]).toEqual([true, true]);
      const { issues } = caniemail({ clients: ['outlook.windows'], html: signature.html } as Parameters<
        typeof caniemail
      >[0]);
      expect(
        [...issues.errors.values()]
          .flat()
          .map(({ title }) => title)
          .filter((each) => each !== 'role attribute'),
      ).toEqual([]);
    }
  // A legal line that is missing where pictures are blocked, or in the plain text, is noticed.
  const signature = write(whole(), { below: BELOW });
  expect(
    failing(prove(whole(), { ...signature, html: signature.html.replace(BELOW[0]!, '') }, { below: BELOW })),
  ).toEqual(['pictures blocked']);
  expect(
    failing(prove(whole(), { ...signature, text: signature.text.replace(BELOW[1]!, '') }, { below: BELOW })),
  ).toEqual(['as text']);
});

test('of several notices the one shows that began last; each holds from its start up to its end', () => {
  const [a, b] = [
    { id: 'a', from: 10, until: 40 },
    { id: 'b', from: 20, until: 30 },
  ];
  const shown = [9, 10, 19, 20, 29, 30, 39, 40].map((now) => stripAt([a, b], now)?.id ?? null);
  expect(shown).toEqual([null, 'a', 'a', 'b', 'b', 'a', 'a', null]);
  expect([9, 20, 35].map((now) => stripAt([b, a], now)?.id ?? null)).toEqual([null, 'b', 'a']);
  expect(['de', 'de-AT', 'fr', 'en'].map((language) => textIn({ any: 'x', de: 'y', fr: '' }, language))).toEqual([
    'y',
    'y',
    '',
    'x',
  ]);
});

test('what a word processor’s engine draws is told by data that is not ours: nothing in a signature but what it knows', async () => {
  const { caniemail } = await import('caniemail');
  // caniemail's data, by the number of its engine; `padding` and `line-height` are known with a note: they hold for cells of tables, which is where they stand.
  for (const layout of ['beside', 'below'] as const) {
    const { html } = write(whole(), {}, layout);
    const untaken = (...clients: string[]) => {
      const { issues } = caniemail({ clients, html } as Parameters<typeof caniemail>[0]);
      return new Set([...issues.errors.values()].flat().map(({ title }) => title));
    };
    // What a screen reader is told of a table takes nothing away from what is seen.
    expect([...untaken('outlook.windows', 'outlook.windows-mail')].filter((each) => each !== 'role attribute')).toEqual(
      [],
    );
    // Elsewhere some program or other does without these: what it says still stands there, in its place.
    const harmless = new Set(['role attribute', 'lang attribute', 'width attribute', 'height attribute']);
    for (const each of ['text-decoration', 'mailto: links', 'height property']) harmless.add(each);
    expect([...untaken('*')].filter((each) => !harmless.has(each))).toEqual([]);
    expect(readSignature(html).properties.filter((each) => !ENGINE_TAKES.has(each))).toEqual([]);
  }
  // The reader notices what the data says is not drawn.
  const bad = '<div style="display:flex;border-radius:4px">x</div>';
  expect(caniemail({ clients: ['outlook.windows'], html: bad }).issues.errors.size).toBeGreaterThan(0);
});

test('names and links read on white and on a dark ground, whatever the palette (WCAG 2.2, 1.4.3)', () => {
  const hex = fc
    .integer({ min: 0, max: 0xffffff })
    .map((value) => `#${value.toString(16).padStart(6, '0').toUpperCase()}`);
  fc.assert(
    fc.property(hex, hex, (band, act) => {
      for (const colour of [accentOf({ ...PALETTES.moor, band, act }), QUIET]) {
        expect(contrast(colour, MAIL_GROUNDS.day)).toBeGreaterThanOrEqual(NEEDS.day);
        expect(contrast(colour, MAIL_GROUNDS.night)).toBeGreaterThanOrEqual(NEEDS.night);
      }
    }),
  );
});

test('pictures may be linked, within the mail or within the HTML; nothing is fetched from elsewhere then', () => {
  for (const src of ['cid:a@signature', 'data:image/png;base64,AAAA', `${LINK}/file-a`]) {
    const signature = write(whole(), { photo: { src, width: 72, height: 72 } });
    expect(failing(prove(whole(), signature, { pictures: 'inside' }))).toEqual([]);
  }
});

test('nothing typed is markup, and names of 300 characters, without firm or photo, in two directions, still go out', () => {
  const long = `${'Wolfeschlegelsteinhausen'.repeat(12)}<script>alert(1)</script>`;
  const odd: PersonRecord = {
    ...PERSON,
    name: { ...PERSON.name, given: long, family: 'محمد الهاشمي' },
    details: PERSON.details.filter(({ kind }) => kind !== 'organisation'),
  };
  const composition = {
    ...made(odd, { ...DRAFT, lines: firstLines(odd, { isPrivate: false }), look: FIRST_LOOK }),
    language: 'ar',
  };
  const signature = write(composition, { language: 'ar', photo: null, logo: null });
  expect(signature.html).not.toContain('<script');
  expect(signature.html).toMatch(/^<table [^>]*dir="rtl"/);
  expect(readSignature(signature.html).words).toContain(writtenName(odd.name));
  expect(failing(prove(composition, signature))).toEqual([]);
});

test('a signature of every layout’s look stays far below its room; a reply leaves its picture out', () => {
  for (const layout of LAYOUT_NAMES) {
    const { html } = write(whole({ ...FIRST_LOOK, layout }));
    expect(html.length).toBeLessThan(SIGNATURE_ROOM.linked / 5);
  }
  const reply = writeSignature(whole(), { layout: 'beside', parts: FIRST_SIGNATURE.reply }, CONTEXT);
  expect([reply.html.includes('<img'), reply.html.includes(LINK)]).toEqual([false, true]);
  const shown = linesOn(whole(), 'signature').map(({ detail }) => squeeze(shownValue(detail)));
  expect(shown.every((value) => squeeze(reply.html.replace(/<[^>]*>/g, '')).includes(value))).toBe(true);
});
