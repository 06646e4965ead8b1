import type { HandOver, HeldCard } from '@/core/hand-over';
import { createHeldOutbox, showForm } from './hand-over-form';

/**
 * The script of the page that holds a card up: shows the card that is chosen, keeps the screen awake (W3C Screen Wake Lock), shares (W3C Web Share) and
 * copies. Without it the first card's code stands on the page all the same.
 */
const { cards, words } = JSON.parse(document.getElementById('cards')!.textContent) as HandOver;
const find = <T extends HTMLElement>(id: string) => document.getElementById(id) as T | null;
const name = find('name');
const code = find('code');
const note = find('note');
const where = find<HTMLSelectElement>('where');
const KEPT = 'heathland hand-over';
const UNSENT = 'heathland replies';
const kept = (): { card?: string; where?: string } => {
  try {
    return JSON.parse(localStorage.getItem(KEPT) ?? '{}') as { card?: string; where?: string };
  } catch {
    return {};
  }
};
const keep = (change: object) => localStorage.setItem(KEPT, JSON.stringify({ ...kept(), ...change }));
const say = (text: string) => {
  if (!note) return;
  note.textContent = text;
  note.hidden = text === '';
};

let shown: HeldCard | undefined = cards.find(({ isPrivate }) => !isPrivate) ?? cards[0];
/** A private card that was tapped once. */
let asked: string | null = null;

const codeOf = (card: HeldCard) => card.at[where?.value ?? ''] ?? card;

function show(card: HeldCard): void {
  shown = card;
  if (name) name.textContent = card.name;
  find('audience')!.textContent = card.audience;
  // Drawn by our own server, and kept with this page.
  const drawing = new DOMParser().parseFromString(codeOf(card).svg, 'image/svg+xml').documentElement;
  code?.replaceChildren(document.importNode(drawing, true));
  document
    .querySelectorAll<HTMLElement>('[data-card]')
    .forEach((button) => button.setAttribute('aria-pressed', String(button.dataset.card === card.id)));
  say('');
}

document.querySelectorAll<HTMLElement>('[data-card]').forEach((button) =>
  button.addEventListener('click', () => {
    const card = cards.find(({ id }) => id === button.dataset.card);
    if (!card) return;
    // A private card is never the next by accident.
    if (card.isPrivate && asked !== card.id) {
      asked = card.id;
      return say(words.again);
    }
    asked = null;
    if (!card.isPrivate) keep({ card: card.id });
    show(card);
    scrollTo({ top: 0 });
  }),
);

/** Fetches the codes of an occasion while there is a network, so that they are there when there is none. */
async function fetchWhere(occasionId: string): Promise<void> {
  if (occasionId === '' || cards.every(({ at }) => at[occasionId])) return;
  const answer = await fetch('/api/hand-over', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ occasionId }),
  }).catch(() => null);
  if (answer?.ok) location.reload();
}
where?.addEventListener('change', () => {
  keep({ where: where.value });
  if (shown) show(shown);
  void fetchWhere(where.value);
});

/** What others typed on this phone and what was not sent yet goes as soon as there is a network. */
const theirs = find('theirs');
const form = find('form');
if (theirs && form) {
  theirs.hidden = false;
  const outbox = createHeldOutbox({
    read: () => localStorage.getItem(UNSENT),
    write: (text) => localStorage.setItem(UNSENT, text),
    post: (json) =>
      fetch('/api/hand-over/replies', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(json),
      }),
  });
  const sendAll = async () => say((await outbox.sendAll()) > 0 ? words.unsent : '');
  theirs.addEventListener('click', () => {
    if (!shown) return;
    const { id: card, form: said } = shown;
    showForm(form, { said, back: words.back }, (typed) => {
      outbox.add({ ...typed, card, occasion: where?.value || null, at: new Date().toISOString() });
      void sendAll();
    });
  });
  addEventListener('online', () => void sendAll());
  void sendAll();
}

const share = find('share');
if (share && 'share' in navigator) {
  share.hidden = false;
  share.addEventListener('click', () => {
    if (shown) void navigator.share({ title: shown.name, url: codeOf(shown).link }).catch(() => undefined);
  });
}
find('copy')?.addEventListener('click', () => {
  if (shown)
    void navigator.clipboard.writeText(codeOf(shown).link).then(
      () => say(words.copied),
      () => say(codeOf(shown!).link),
    );
});

/** Keeps the screen awake while the page is seen; where that is not given, the phone goes to sleep as always. */
async function stayAwake(): Promise<void> {
  if (document.visibilityState === 'visible') await navigator.wakeLock?.request('screen').catch(() => undefined);
}
document.addEventListener('visibilitychange', () => void stayAwake());
void stayAwake();

const before = kept();
if (where && [...where.options].some(({ value }) => value === before.where)) where.value = before.where ?? '';
const last = cards.find(({ id, isPrivate }) => id === before.card && !isPrivate);
if ((last && last !== shown) || where?.value) show(last ?? shown!);
if (!navigator.onLine) say(words.kept);

if ('serviceWorker' in navigator) {
  void navigator.serviceWorker.register('/hand-over/worker.js', { scope: '/hand-over' });
  // The session has ended elsewhere: what was kept is gone, and so is what stands here.
  const leave = () => location.replace('/sign-in');
  navigator.serviceWorker.addEventListener('message', ({ data }) => data === 'ended' && leave());
  // It may have been told before this page was there to hear it.
  if (navigator.serviceWorker.controller) void caches.match('/hand-over').then((kept) => kept ?? leave());
}
