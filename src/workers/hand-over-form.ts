import type { HeldForm } from '@/core/hand-over';

/** What somebody typed on the holder's phone. */
export type Typed = { name: string; reach: string; note: string };
/** The same with the card and occasion that were held up, and when. */
export type HeldReply = Typed & { card: string; occasion: string | null; at: string };

type Ways = {
  read: () => string | null;
  write: (text: string) => void;
  post: (reply: HeldReply) => Promise<Pick<Response, 'ok' | 'status'>>;
};

/** Replies that wait on this phone. One that the server refuses for what it says is dropped: it would be refused for ever. */
export function createHeldOutbox({ read, write, post }: Ways) {
  const waiting = (): HeldReply[] => {
    try {
      const found: unknown = JSON.parse(read() ?? '[]');
      return Array.isArray(found) ? (found as HeldReply[]) : [];
    } catch {
      return [];
    }
  };
  let sending: Promise<number> | null = null;
  async function go(): Promise<number> {
    for (let [first, ...rest] = waiting(); first; [first, ...rest] = waiting()) {
      const answer = await post(first).catch(() => null);
      // Signed out, too many at once, or no server: later.
      if (!answer || (!answer.ok && answer.status !== 422 && answer.status !== 404)) return waiting().length;
      write(JSON.stringify(waiting().filter(({ at, reach }) => at !== first!.at || reach !== first!.reach)));
      void rest;
    }
    return 0;
  }
  return {
    add: (reply: HeldReply) => write(JSON.stringify([...waiting(), reply])),
    /** Sends what waits, one after the other; answers with how many still do. */
    sendAll: (): Promise<number> => (sending ??= go().finally(() => (sending = null))),
  };
}

/** A way to reach somebody looks like a mail address or a number; what it is the server reads. */
const REACHES = /^\s*(\S+@\S+\.\S+|[+()\d][\d\s()./-]{4,})\s*$/;

/** Shows the form over everything else on the page, so that whoever gets the phone sees nothing of the studio. */
export function showForm(
  place: HTMLElement,
  { said, back }: { said: HeldForm; back: string },
  onTyped: (typed: Typed) => void,
): void {
  function element<K extends keyof HTMLElementTagNameMap>(tag: K, text = '', more: Record<string, unknown> = {}) {
    const made = document.createElement(tag);
    made.textContent = text;
    return Object.assign(made, more);
  }
  const form = element('form');
  form.noValidate = true;
  const field = (name: keyof Typed, label: string, input: HTMLInputElement | HTMLTextAreaElement) => {
    input.name = name;
    const labelled = element('label', label);
    labelled.append(input);
    return labelled;
  };
  const name = element('input', '', { required: true, autocomplete: 'off', maxLength: 200 });
  const reach = element('input', '', { required: true, autocomplete: 'off', inputMode: 'email', maxLength: 254 });
  const note = element('textarea', '', { rows: 2, maxLength: 2_000 });
  const wrong = element('p', said.unreadable, { className: 'wrong', hidden: true });
  wrong.setAttribute('role', 'alert');
  const close = element('button', back, { type: 'button' });
  // Nothing else is on the page meanwhile, for no hand and no reader.
  const others = [...document.body.children].filter((each) => each instanceof HTMLElement && each !== place);
  const open = (is: boolean) => {
    place.hidden = !is;
    for (const each of others) (each as HTMLElement).hidden = is;
  };
  close.addEventListener('click', () => open(false));
  form.append(
    field('name', said.name, name),
    field('reach', said.reach, reach),
    wrong,
    field('note', said.note, note),
    element('p', said.consent, { className: 'consent' }),
    element('button', said.send, { type: 'submit' }),
  );
  form.addEventListener('submit', (event) => {
    event.preventDefault();
    wrong.hidden = REACHES.test(reach.value);
    if (!name.value.trim()) return name.focus();
    if (!wrong.hidden) return reach.focus();
    onTyped({ name: name.value, reach: reach.value, note: note.value });
    place.replaceChildren(element('h1', said.thanks), close);
    close.focus();
  });
  place.lang = said.language;
  place.replaceChildren(element('h1', said.title), form, close);
  open(true);
  name.focus();
}
