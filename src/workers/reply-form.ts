/**
 * The script of a reply form, fetched when one of its fields is touched: what is typed is kept on this phone until it was sent, so that it survives a lost network
 * and a closed page. Without it the form is sent as any other.
 */
import { createOutbound, type Kept } from './reply-kept';

declare const heathlandWords: { offline: string; later: string; sending: string };

const form = document.querySelector<HTMLFormElement>('form[data-r]');

function begin(of: HTMLFormElement): void {
  const key = `reply ${of.getAttribute('action') ?? ''}`;
  const status = of.insertBefore(document.createElement('p'), of.querySelector('button'));
  status.setAttribute('role', 'status');
  status.hidden = true;
  const say = (text: string) => {
    status.textContent = text;
    status.hidden = text === '';
  };
  const fields = () => new URLSearchParams([...new FormData(of)].map(([name, value]) => [name, String(value)]));
  const touched = performance.now();
  const took = of.querySelector<HTMLInputElement>('[name=took]');
  const outbound = createOutbound({
    now: () => Date.now(),
    read: () => localStorage.getItem(key),
    write: (text) => (text === null ? localStorage.removeItem(key) : localStorage.setItem(key, text)),
    post: (body) => fetch(of.action, { method: 'POST', body: new URLSearchParams(body) }),
  });

  function fill({ body }: Kept): void {
    new URLSearchParams(body).forEach((value, name) => {
      const field = of.elements.namedItem(name);
      if ((field instanceof HTMLInputElement || field instanceof HTMLTextAreaElement) && field.value === '')
        field.value = value;
    });
  }

  async function send(body: string, late: boolean): Promise<void> {
    say(heathlandWords.sending);
    const outcome = await outbound.send(body);
    if (outcome.is === 'sent') {
      if (!late) return void location.assign(outcome.where);
      of.reset();
      return say(heathlandWords.later);
    }
    if (outcome.is === 'kept') return say(heathlandWords.offline);
    say('');
    // The server has something to say about it, on a page of its own.
    if (!late) of.submit();
  }

  const before = outbound.kept();
  if (before) fill(before);
  if (before?.unsent) void send(before.body, true);
  addEventListener('online', () => {
    const waiting = outbound.kept();
    if (waiting?.unsent) void send(waiting.body, true);
  });
  of.addEventListener('input', () => outbound.keep(fields().toString()));
  of.addEventListener('submit', (event) => {
    event.preventDefault();
    if (took && took.value === '') took.value = String(Math.round(performance.now() - touched));
    void send(fields().toString(), false);
  });
}

if (form) begin(form);
