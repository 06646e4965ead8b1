import { JSDOM } from 'jsdom';
import type { HeldForm } from '@/core/hand-over';
import { showForm, type Typed } from './hand-over-form';

const SAID: HeldForm = {
  ...{ language: 'de', title: 'Ihre Angaben', name: 'Name', reach: 'Mail oder Nummer', note: 'Notiz' },
  ...{ consent: 'Nur für diesen Kontakt', send: 'Senden', thanks: 'Danke', kept: 'Behalten', unreadable: 'Weder noch' },
};

/** The holder's phone with the screen below the form. */
function phone(said: HeldForm = SAID) {
  const { window } = new JSDOM(
    '<body><header>Private</header><main>Cards</main><section id="place" hidden></section></body>',
  );
  const { document } = window;
  Object.assign(globalThis, { document, HTMLElement: window.HTMLElement });
  const typed: Typed[] = [];
  const place = document.querySelector<HTMLElement>('#place')!;
  showForm(place, { said, back: 'Zurück' }, (each) => typed.push(each));
  const field = (name: keyof Typed) => place.querySelector<HTMLInputElement>(`[name=${name}]`)!;
  const send = (values: Partial<Typed>) => {
    for (const [name, value] of Object.entries(values)) field(name as keyof Typed).value = value;
    place.querySelector('form')!.dispatchEvent(new window.Event('submit', { bubbles: true, cancelable: true }));
  };
  const alert = () => place.querySelector<HTMLElement>('[role=alert]')!;
  const hidden = () => ['header', 'main', '#place'].map((each) => document.querySelector<HTMLElement>(each)!.hidden);
  return { document, place, typed, field, send, alert, hidden };
}
afterEach(() => {
  Reflect.deleteProperty(globalThis, 'document');
  Reflect.deleteProperty(globalThis, 'HTMLElement');
});

test('whoever gets the phone sees the form and nothing of the studio, in their own language, and can type at once', () => {
  const { document, place, hidden } = phone();
  expect(hidden()).toEqual([true, true, false]);
  expect([place.lang, place.querySelector('h1')!.textContent]).toEqual(['de', 'Ihre Angaben']);
  expect((document.activeElement as HTMLInputElement).name).toBe('name');
  // WCAG 2.2, 1.3.1 and 3.3.2: every field has its label around it.
  for (const field of place.querySelectorAll('input, textarea'))
    expect(field.closest('label')!.textContent!.trim()).not.toBe('');
});

test.each([
  ['wynne@kest.example', true],
  [' 020 7946 0182 ', true],
  ['+44 (20) 7946-0182', true],
  ['wynne@kest', false],
  ['at the valley station', false],
  ['', false],
  ['12', false],
])('“%s” reaches somebody: %s', (reach, taken) => {
  const { typed, send, alert, document } = phone();
  send({ name: 'Wynne Kest', reach, note: 'Rings back' });
  expect(typed).toEqual(taken ? [{ name: 'Wynne Kest', reach, note: 'Rings back' }] : []);
  if (taken) return;
  // What is wrong is said, and the cursor stands there.
  expect([alert().hidden, alert().textContent]).toEqual([false, 'Weder noch']);
  expect((document.activeElement as HTMLInputElement).name).toBe('reach');
});

test('without a name nothing is sent, and nothing that was typed is lost', () => {
  const { typed, send, field, document } = phone();
  send({ name: '  ', reach: 'wynne@kest.example', note: 'Rings back' });
  expect(typed).toEqual([]);
  expect((document.activeElement as HTMLInputElement).name).toBe('name');
  expect([field('reach').value, field('note').value]).toEqual(['wynne@kest.example', 'Rings back']);
  send({ name: 'Wynne Kest' });
  expect(typed).toEqual([{ name: 'Wynne Kest', reach: 'wynne@kest.example', note: 'Rings back' }]);
});

test('after it was sent nothing of what was typed is left on the phone; its holder gets the screen back', () => {
  const { place, send, hidden } = phone();
  send({ name: 'Wynne Kest', reach: 'wynne@kest.example', note: 'Rings back' });
  expect([place.querySelector('h1')!.textContent, place.textContent!.includes('Kest')]).toEqual(['Danke', false]);
  expect(place.querySelectorAll('input, textarea')).toHaveLength(0);
  const back = place.querySelector('button')!;
  expect(back.textContent).toBe('Zurück');
  back.click();
  expect(hidden()).toEqual([false, false, true]);
});

test('words are words, whatever stands in them', () => {
  const { place } = phone({ ...SAID, title: '<img src=x onerror=alert(1)>', consent: '</p><script>1</script>' });
  expect(place.querySelectorAll('img, script')).toHaveLength(0);
  expect(place.querySelector('h1')!.textContent).toBe('<img src=x onerror=alert(1)>');
});
