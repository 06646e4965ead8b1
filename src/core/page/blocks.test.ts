import fc from 'fast-check';
import { Parser } from 'htmlparser2';
import { composeDraft, freshBlock, REPLY_EXTRAS, type Block, type ComposedLine } from '@/core/card';
import { LIMITS } from '@/core/limits';
import type { Detail } from '@/core/record';
import { anyCard, blocksOf } from '../../../tests/fixtures/any-card';
import { barButtons, dependsOnTime, inBlocks, renderBlock, targetsOf, type BlockContext } from './blocks';
import { replyForm, type FormFilled } from './reply-form';

type Element = { name: string; attributes: Record<string, string>; words: string; within: string[] };

/** The elements of a piece of HTML as htmlparser2 reads it, with the words right in them; unclosed and stray ends are told. */
function elementsOf(html: string): { elements: Element[]; faults: string[] } {
  const elements: Element[] = [];
  const open: Element[] = [];
  const faults: string[] = [];
  const parser = new Parser(
    {
      onopentag: (name, attributes) => {
        const element = { name, attributes, words: '', within: open.map((each) => each.name) };
        elements.push(element);
        open.push(element);
      },
      ontext: (words) => open.at(-1) && (open.at(-1)!.words += words),
      onclosetag: (name, implied) => {
        if (implied && !VOID.has(name)) faults.push(`${name} is not closed`);
        if (open.pop()?.name !== name) faults.push(`${name} is closed and was not open`);
      },
    },
    { decodeEntities: true },
  );
  parser.end(html);
  return { elements, faults };
}
/** Void elements (WHATWG HTML, 13.1.2). */
const VOID = new Set(['img', 'input', 'source', 'track', 'br']);

const common = { label: '', preferred: false };
const line = (detail: Detail, label = '', on: ComposedLine['on'] = ['page']): ComposedLine => ({
  ...{ id: detail.id, label, detail, on, emphasis: 'plain', gap: false },
});
const context = (more: Partial<BlockContext> = {}): BlockContext => ({
  language: 'en',
  fileAt: (hash, what) => `/c/x/${what}-${hash}`,
  lightFileAt: (hash) => `/c/x/light-${hash}.webp`,
  now: Date.parse('2026-11-25T12:00:00Z'),
  ...{ placement: null, mapAt: () => null, holder: 'Ilse Varrow', reply: null, first: null },
  ...more,
});
const PICTURE = { hash: 'ab'.repeat(32), width: 640, height: 480 };
const item = (more: object = {}) => ({ id: 'i', picture: null, alt: '', title: '', text: '', url: '', ...more });
const gallery = (...items: ReturnType<typeof item>[]): Block =>
  ({ ...freshBlock('gallery', () => 'g'), items }) as Block;

test('of any blocks the mark-up closes, pictures keep their proportions, and only links of the web lead away (properties)', () => {
  fc.assert(
    fc.property(anyCard, blocksOf, fc.boolean(), ({ record, draft }, blocks, leads) => {
      const composed = composeDraft(record, { ...draft, blocks }, 'GB');
      if (!composed.ok) return;
      const { lines } = composed.value;
      for (const block of composed.value.blocks) {
        const { elements, faults } = elementsOf(renderBlock(block, lines, context(), { leads, target: true }));
        expect(faults).toEqual([]);
        for (const { name, attributes, within } of elements) {
          // Only what is drawn by us has handlers, styles or frames: nothing.
          expect(Object.keys(attributes).filter((each) => /^on|^style$/.test(each))).toEqual([]);
          expect(['script', 'iframe', 'object', 'style', 'base', 'meta']).not.toContain(name);
          if (name === 'img')
            expect(attributes).toMatchObject({
              alt: expect.any(String),
              width: expect.any(String),
              height: expect.any(String),
            });
          if (name === 'a') {
            expect(attributes.href).toMatch(/^(https?:|mailto:|tel:|sms:|geo:|#b-)/);
            // No link within a link (WHATWG HTML, 4.5.1).
            expect(within).not.toContain('a');
          }
          if (name === 'li') expect(within.at(-1)).toBe('ul');
          if (attributes.target === '_blank') expect(attributes.rel).toContain('noreferrer');
        }
        const [first] = elements;
        if (first) expect([first.name, first.attributes.id]).toEqual(['section', `b-${block.id}`]);
      }
    }),
    { numRuns: 300 },
  );
});

test('a picture that is gone leaves no empty frame, one that leads elsewhere without words is called by its host', () => {
  const shown = renderBlock(gallery(item({ picture: PICTURE, url: 'https://tarnhope.example/up' })), [], context());
  const { elements } = elementsOf(shown);
  expect(elements.find(({ name }) => name === 'img')!.attributes).toMatchObject({
    ...{ alt: 'tarnhope.example', width: '640', height: '480', loading: 'lazy' },
    src: `/c/x/picture-${PICTURE.hash}`,
  });
  expect(elements.find(({ name }) => name === 'source')!.attributes.type).toBe('image/webp');
  const gone = renderBlock(gallery(item({ picture: PICTURE, title: 'Up' })), [], context({ fileAt: () => null }));
  expect(gone).not.toMatch(/<img|<picture|src=/);
  expect(gone).toContain('<b>Up</b>');
  // What leads the page is not waited for until somebody scrolls; only the first of them.
  const leading = gallery(item({ picture: PICTURE }), item({ id: 'j', picture: PICTURE }));
  expect(renderBlock(leading, [], context(), { leads: true }).match(/loading="lazy"/g)).toHaveLength(1);
});

test('parameters for web statistics go to the pages that links lead to, and to nothing else', () => {
  const links = {
    ...freshBlock('onward links', () => 'o'),
    items: [item({ url: 'https://tarnhope.example/?a=1#top' })],
  } as Block;
  const { elements } = elementsOf(renderBlock(links, [], context({ parameters: 'utm_source=card' })));
  expect(elements.find(({ name }) => name === 'a')!.attributes.href).toBe(
    'https://tarnhope.example/?a=1&utm_source=card#top',
  );
});

const hours = (zone: string): Detail => ({
  ...{ kind: 'hours', id: 'h', ...common, zone },
  days: [...Array.from({ length: 5 }, () => [{ from: '09:00', until: '17:30' }]), [], []],
});
const street: Detail = {
  ...{ kind: 'address', id: 'a', ...common, uses: ['work'], poBox: '', extended: '', street: '4 Wharf Row' },
  ...{ locality: 'Stavering', region: '', postcode: 'SB1 4TW', country: 'United Kingdom' },
} as Detail;

test.each<[string, string, string]>([
  // 12:00 UTC on a Wednesday in November: noon in London, four in the morning in Los Angeles, one in the morning of Thursday in Auckland.
  ['Europe/London', 'en', 'Open until 17:30 (London)'],
  ['America/Los_Angeles', 'en', 'Closed until Wed 9:00 (Los Angeles)'],
  ['Pacific/Auckland', 'en', 'Closed until Thu 9:00 (Auckland)'],
  ['UTC', 'en', 'Open until 17:30'],
])('whether an office in %s is open is told by its own clock', (zone, language, said) => {
  const block = freshBlock('hours', () => 'w');
  const { elements } = elementsOf(renderBlock(block, [line(hours(zone))], context({ language })));
  const now = elements.find(({ attributes }) => attributes.class === 'now')!.words;
  // The words are ours and may change; hour, day and city may not.
  for (const part of said.split(' ').slice(1)) expect(now).toContain(part.replace('until', ''));
  expect(elements.find(({ attributes }) => attributes.class === 'week')!.words).toBe('Mon–Fri 9:00–17:30');
  expect(dependsOnTime([block])).toBe(true);
  expect(dependsOnTime([freshBlock('about', () => 'b')])).toBe(false);
});

test('an office takes the hours of its own label along, opens the recipient’s own map, and is not said twice in the list', () => {
  const lines = [
    line(street, 'Valley station'),
    line(hours('Europe/London'), 'Valley station'),
    line({ ...hours('Europe/Berlin'), id: 'h2' }, 'Summit'),
  ];
  const offices = freshBlock('offices', () => 'f');
  const html = renderBlock(offices, lines, context({ mapAt: (id) => `/c/x/map/${id}` }));
  expect(html.match(/class="week"/g)).toHaveLength(1);
  expect(html).not.toContain('(Berlin)');
  const { elements } = elementsOf(html);
  expect(elements.find(({ name }) => name === 'a')!.attributes).toMatchObject({ href: '/c/x/map/a', 'data-l': 'a' });
  expect([...inBlocks([offices], lines)].sort()).toEqual(['a', 'h']);
  expect(renderBlock(offices, [], context())).toBe('');
});

test('an own film has its poster, captions and size before anything of it is loaded; a player elsewhere is asked for nothing', () => {
  const film = { hash: 'cd'.repeat(32), type: 'video/mp4', width: 1080, height: 1920, seconds: 12, bytes: 99 } as const;
  const captions = { hash: 'ef'.repeat(32), language: 'de' };
  const own = { id: 'v', title: 'Up', film, player: '', poster: PICTURE, captions };
  const there = { ...own, film: null, player: 'https://films.example/7', captions: null };
  const video = (...videos: object[]) => ({ ...freshBlock('video', () => 'v'), videos }) as Block;
  const { elements } = elementsOf(renderBlock(video(own), [], context()));
  expect(elements.find(({ name }) => name === 'video')!.attributes).toMatchObject({
    ...{ class: 'tall', width: '1080', height: '1920', preload: 'none', poster: `/c/x/picture-${PICTURE.hash}` },
  });
  expect(elements.find(({ name }) => name === 'track')!.attributes).toMatchObject({ kind: 'captions', srclang: 'de' });
  // Nothing is loaded of the other host: its address stands in a link alone.
  const elsewhere = elementsOf(renderBlock(video(there), [], context())).elements;
  expect(
    elsewhere.filter(({ attributes }) =>
      Object.entries(attributes).some(([name, value]) => name !== 'href' && value.includes('films.example')),
    ),
  ).toEqual([]);
  expect(elsewhere.find(({ name }) => name === 'a')!.attributes).toMatchObject({
    href: 'https://films.example/7',
    rel: 'noopener noreferrer',
  });
  expect(renderBlock(video(own), [], context({ fileAt: () => null }))).not.toContain('<video');
});

test('a bar has the buttons that have something to do: what does not go out is neither called nor named', () => {
  const phone: Detail = { kind: 'phone', id: 'p', ...common, number: '+442079460182', uses: [] };
  const bar = {
    ...freshBlock('action bar', () => 'b'),
    buttons: [
      { id: '1', act: 'save', line: null, subject: '', text: '' },
      { id: '2', act: 'call', line: 'p', subject: '', text: '' },
      { id: '3', act: 'jump', line: null, block: 'g', subject: '', text: '' },
      { id: '4', act: 'mail', line: 'gone', subject: 'x', text: '' },
    ],
  } as Extract<Block, { kind: 'action bar' }>;
  const blocks = [bar, { ...gallery(item({ title: 'Up' })), title: 'Pictures <b>' }] as Block[];
  const shown = (lines: ComposedLine[], file: string | null = '/c/x.vcf') =>
    elementsOf(barButtons(bar, { lines, blocks }, file, context())).elements.map(({ attributes, words }) => [
      attributes.href,
      words,
    ]);
  expect(shown([line(phone)]).map(([href]) => href)).toEqual(['/c/x.vcf', 'tel:+442079460182', '#b-g']);
  expect(shown([line(phone)]).at(-1)).toEqual(['#b-g', 'Pictures <b>']);
  expect(shown([line(phone, '', ['file'])], null).map(([href]) => href)).toEqual(['#b-g']);
  expect([...targetsOf(blocks)]).toEqual(['g']);
});

const form = (fields: readonly string[] = [], question = ''): Extract<Block, { kind: 'reply form' }> =>
  ({ ...freshBlock('reply form', () => 'r'), fields, question }) as never;
const reply = { action: '/c/x/reply', script: '/c/reply.js', months: 24 };

test('each field of a reply form is labelled, fills itself in where a browser can, and both of its forms are sent without a script (WHATWG HTML, 4.10)', () => {
  const html = replyForm(form(REPLY_EXTRAS, 'Which <b>stand</b>?'), [], { language: 'en', holder: 'Ilse & Co', reply });
  const { elements, faults } = elementsOf(html);
  expect(faults).toEqual([]);
  const typed = elements.filter(
    ({ name, attributes }) => /^(input|textarea)$/.test(name) && attributes.type !== 'hidden',
  );
  for (const { attributes, within } of typed.filter(({ within }) => !within.includes('p')))
    expect([attributes.name, within.at(-1) === 'label' || Boolean(attributes['aria-label'])]).toEqual([
      attributes.name,
      true,
    ]);
  // WHATWG HTML, 4.10.18.7.1 (autofill detail tokens).
  const autofill = Object.fromEntries(typed.map(({ attributes }) => [attributes.name, attributes.autocomplete]));
  expect(autofill).toMatchObject({
    name: 'name',
    reach: 'email',
    firm: 'organization',
    title: 'organization-title',
    other: 'tel',
  });
  expect(
    elements
      .filter(({ name }) => name === 'form')
      .map(({ attributes }) => [attributes.method, attributes.action, attributes.enctype]),
  ).toEqual([
    ['post', '/c/x/reply', undefined],
    ['post', '/c/x/reply', 'multipart/form-data'],
  ]);
  // What programs fill in and people do not see is no stop for the keyboard.
  expect(typed.find(({ attributes }) => attributes.name === 'more')!.attributes.tabindex).toBe('-1');
  expect(html).not.toContain('<b>stand</b>');
  expect(html).toContain('Ilse &#38; Co');
});

test('a draft’s form takes nothing; one that comes back shows what was typed whole and what is wrong beside it', () => {
  const draft = elementsOf(replyForm(form(), [], { language: 'en', holder: 'Ilse', reply: null })).elements;
  expect(draft.map(({ name }) => name)).not.toContain('form');
  expect(draft.filter(({ name, attributes }) => name === 'fieldset' && 'disabled' in attributes)).toHaveLength(2);
  const long = `"${'x'.repeat(LIMITS.name + 40)}`;
  const typed = { name: long, reach: '<script>', note: '\nfirst line', firm: '', title: '', other: '', answer: '' };
  const filledIn: FormFilled = { typed, wrong: { reach: 'No address <i>' } };
  const { elements } = elementsOf(replyForm(form(), [], { language: 'en', holder: 'Ilse', reply }, filledIn));
  const of = (name: string) => elements.find(({ attributes }) => attributes.name === name)!;
  expect(of('name').attributes).toMatchObject({ value: long, maxlength: String(long.length) });
  expect(of('reach').attributes).toMatchObject({
    value: '<script>',
    'aria-invalid': 'true',
    'aria-describedby': 'w-reach',
  });
  expect(elements.find(({ attributes }) => attributes.id === 'w-reach')!.words).toBe('No address <i>');
  // The first break after the tag is the parser's (WHATWG HTML, 13.1.2.5): what was typed begins with the second.
  expect(of('note').words).toBe('\n\nfirst line');
});

test('a text message is offered where the page shows a number that takes texts, and nowhere else (RFC 5724)', () => {
  const number = (uses: string[]): Detail =>
    ({ kind: 'phone', id: 'p', ...common, number: '+447700900182', uses }) as Detail;
  const smsIn = (lines: ComposedLine[]) =>
    elementsOf(replyForm(form(), lines, { language: 'en', holder: 'Ilse & Co', reply })).elements.flatMap(
      ({ attributes }) => (attributes.href?.startsWith('sms:') ? [attributes.href] : []),
    );
  const [href] = smsIn([line(number(['text']))]);
  expect(href).toMatch(/^sms:\+447700900182\?body=/);
  expect(decodeURIComponent(href!.split('body=')[1]!)).toContain('Ilse & Co');
  expect(smsIn([line(number(['work']))])).toEqual([]);
  expect(smsIn([line(number(['text']), '', ['file'])])).toEqual([]);
});
