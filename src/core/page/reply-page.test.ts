import { Parser } from 'htmlparser2';
import { freshBlock, type Block } from '@/core/card';
import { FIRST_LOOK } from '@/core/look';
import { loadWords } from '@/core/messages';
import { renderHeld, renderUnsent, type HeldPage } from './reply-page';

beforeAll(() => Promise.all(['en', 'ar'].map((language) => loadWords(language))));

type Element = { name: string; attributes: Record<string, string>; form: number };
/** Elements of a page with the number of the form that each stands in, from 1; 0 outside of forms. */
function elementsOf(html: string): Element[] {
  const elements: Element[] = [];
  let [forms, within] = [0, 0];
  const parser = new Parser({
    onopentag(name, attributes) {
      if (name === 'form') within = forms += 1;
      elements.push({ name, attributes, form: within });
    },
    onclosetag: (name) => void (name === 'form' && (within = 0)),
  });
  parser.end(html);
  return elements;
}
const HOSTILE = '"><img src=x onerror=alert(1)>';
const form = { ...freshBlock('reply form', () => 'held'), fields: ['firm'] } as Extract<Block, { kind: 'reply form' }>;
const typed = {
  name: HOSTILE,
  reach: 'odile@brandreth.example',
  note: HOSTILE,
  firm: '',
  title: '',
  other: '',
  answer: '',
};
const held = { form, filledIn: { typed, wrong: {} }, consent: `Sent to ${HOSTILE}`, months: 0 };
const of = (more: Partial<HeldPage> = {}): HeldPage => ({
  ...{
    base: '/r/TOKEN',
    address: 'https://cards.example/r/TOKEN',
    holder: HOSTILE,
    contactFile: '/c/ilse.vcf',
    said: [],
    held,
  },
  ...{ date: '27 November 2026', byMail: false, views: 'not asked' },
  ...more,
});
const page = (more: Partial<HeldPage> = {}, language = 'en') => renderHeld(of(more), { language, look: null });
const actions = (html: string) =>
  elementsOf(html)
    .filter(({ name }) => name === 'form')
    .map(({ attributes }) => attributes.action);

test('nothing that somebody typed or is called becomes mark-up, and nobody finds the page by searching (robots: common practice)', () => {
  for (const html of [
    page(),
    page({ held: 'closed' }),
    page({ said: ['thanksText', 'corrected'] }),
    page({ byMail: true, views: 'on' }),
  ]) {
    const elements = elementsOf(html);
    expect(
      elements.filter(({ name, attributes }) => name === 'img' || name === 'script' || 'onerror' in attributes),
    ).toEqual([]);
    expect(elements.find(({ attributes }) => attributes.name === 'robots')!.attributes.content).toBe('noindex');
    // Complete without a script: each form is sent by its own button.
    for (const [at] of actions(html).entries())
      expect(elements.some(({ name, form: within }) => name === 'button' && within === at + 1)).toBe(true);
  }
});

test('what is held is shown only to whoever has said the name, and each further act says it again', () => {
  const closed = page({ held: 'closed' });
  for (const secret of ['odile@brandreth.example', 'Sent to'])
    expect([secret, closed.includes(secret)]).toEqual([secret, false]);
  expect(actions(closed)).toEqual(['/r/TOKEN/held']);
  const open = page({ views: 'off' });
  expect(actions(open)).toEqual(['/r/TOKEN/held', '/r/TOKEN/views', '/r/TOKEN/erase']);
  const elements = elementsOf(open);
  for (const [at] of actions(open).entries())
    expect(
      elements.find(({ attributes, form: within }) => within === at + 1 && attributes.name === 'known')!.attributes
        .value,
    ).toBe(HOSTILE);
  // Agreeing says so; taking it back says nothing more than who one is.
  const on = (html: string) =>
    elementsOf(html)
      .filter(({ attributes }) => attributes.name === 'on')
      .map(({ attributes }) => attributes.value);
  expect([on(open), on(page({ views: 'on' })), actions(page({ views: 'not asked' }))]).toEqual([
    ['1'],
    [],
    ['/r/TOKEN/held', '/r/TOKEN/erase'],
  ]);
});

test('whoever came by a mail that may be somebody else’s can have the address taken out, without a name', () => {
  expect(actions(page({ byMail: true, held: 'closed' }))).toEqual(['/r/TOKEN/held', '/r/TOKEN/address']);
  expect(actions(page({ byMail: true, held: 'nothing' }))).toEqual([]);
  expect(page({ held: 'nothing' })).not.toContain('odile@');
});

test('the card stays one tap away, its contact file first; an address is read from the left in every language', () => {
  const links = (html: string) =>
    elementsOf(html)
      .filter(({ name }) => name === 'a')
      .map(({ attributes }) => [attributes.href, attributes.class]);
  expect(links(page())).toEqual([
    ['/c/ilse.vcf', 'save'],
    ['/r/TOKEN/card', undefined],
  ]);
  expect(links(page({ contactFile: null }))).toEqual([['/r/TOKEN/card', 'save']]);
  const arabic = elementsOf(page({}, 'ar'));
  expect(arabic.find(({ name }) => name === 'html')!.attributes).toMatchObject({ dir: 'rtl', lang: 'ar' });
  expect(arabic.filter(({ attributes }) => attributes.dir === 'ltr')).toHaveLength(1);
});

test('a reply that was not taken comes back whole, with what is wrong beside its field', () => {
  const filledIn = { typed, wrong: { reach: 'That is no address.' } };
  const reply = { action: '/c/ilse/reply', script: '/reply.js', months: 24 };
  const html = renderUnsent(
    { block: form, lines: [], holder: 'Ilse', reply, filledIn },
    { language: 'en', look: FIRST_LOOK, why: HOSTILE },
  );
  const elements = elementsOf(html);
  const field = (name: string) => elements.find(({ attributes }) => attributes.name === name)!.attributes;
  expect([field('name').value, field('reach')['aria-invalid']]).toEqual([HOSTILE, 'true']);
  // What was not taken may be what the script could not read: it comes without.
  expect(html).not.toContain('/reply.js');
  expect(elements.filter(({ name }) => name === 'img')).toEqual([]);
});
