/** A code of one card: its drawing, and the link that it holds. */
export type HeldCode = { link: string; svg: string };

/** A card as a phone holds it up: its code, and the one of each occasion that was fetched. */
/** The words of the form that another person fills in on this phone, in the language of the card. */
export type HeldForm = {
  language: string;
  title: string;
  name: string;
  reach: string;
  note: string;
  consent: string;
  send: string;
  thanks: string;
  kept: string;
  unreadable: string;
};

export type HeldCard = HeldCode & {
  id: string;
  name: string;
  audience: string;
  isPrivate: boolean;
  form: HeldForm;
  /** By the occasion's id. */
  at: Record<string, HeldCode>;
};

export type HeldOccasion = { id: string; name: string };

/** What the page shows and its script works with; `words` are those of the screen. */
export type HandOver = { cards: HeldCard[]; occasions: HeldOccasion[]; words: HandOverWords };

export type HandOverWords = {
  title: string;
  none: string;
  noneHow: string;
  toStudio: string;
  where: string;
  nowhere: string;
  others: string;
  privates: string;
  again: string;
  share: string;
  copy: string;
  copied: string;
  kept: string;
  theirs: string;
  back: string;
  unsent: string;
};

const escaped = (text: string) => text.replace(/[&<>"']/g, (letter) => `&#${letter.charCodeAt(0)};`);

/** Looks of the page: the code at full width on white by day and night, since readers want dark on light. */
export const HAND_OVER_STYLE = `
@font-face{font-family:Literata;src:url(/fonts/literata.woff2) format("woff2");font-weight:200 900;font-display:swap}
@font-face{font-family:Atkinson;src:url(/fonts/atkinson-next.woff2) format("woff2");font-weight:200 800;font-display:swap}
*{box-sizing:border-box}html{color-scheme:light}
body{margin:0;background:#fff;color:#2a2422;font:16px/1.4 Atkinson,system-ui,sans-serif;min-height:100dvh;display:flex;flex-direction:column}
header{display:flex;justify-content:space-between;align-items:center;gap:12px;padding:10px 16px}
header a,header label{color:#6f6960}
select,button{font:inherit;color:inherit;background:#fff;border:1px solid #8a837b;border-radius:3px;padding:8px 12px;min-height:44px}
select{max-width:60vw;padding:8px}
main{flex:1;display:flex;flex-direction:column;align-items:center;text-align:center;padding:0 16px 16px}
h1{font:600 clamp(1.8rem,8vw,2.8rem)/1.1 Literata,Georgia,serif;margin:8px 0 2px}
#audience{color:#6f6960;margin:0}
#code{width:min(92vw,calc(100dvh - 330px),640px);min-width:200px;aspect-ratio:1}
#code svg{display:block;width:100%;height:100%}
.acts{display:flex;gap:12px;margin:4px 0 16px}
nav{width:100%;max-width:640px;text-align:start}
nav p{margin:8px 0 4px;font-size:.8rem;font-weight:700;letter-spacing:.06em;text-transform:uppercase;color:#6f6960}
nav button{display:block;width:100%;text-align:start;margin:6px 0}
nav button[aria-pressed=true]{border-color:#6b3f6e;box-shadow:inset 3px 0 0 #6b3f6e}
nav .private{border-color:#8f6200;background:#fdf6e2}
:focus-visible{outline:2px solid #6b3f6e;outline-offset:2px}
#form{position:fixed;inset:0;background:#fff;overflow:auto;padding:20px 20px 40px;max-width:560px;margin:0 auto;text-align:start}
#form h1{margin:4px 0 16px}#form label{display:block;margin:0 0 12px;color:#6f6960}
#form input,#form textarea{display:block;width:100%;font:inherit;font-size:1.05rem;color:#2a2422;background:#fff;border:1.5px solid #6f6960;border-radius:3px;padding:11px 12px;margin-top:3px}
#form .consent{color:#6f6960;font-size:.92rem}#form .wrong{color:#b3372b;margin:-6px 0 12px}
#form button{width:100%;margin-top:8px}#form [type=submit]{background:#6b3f6e;border-color:#6b3f6e;color:#fff;font-size:1.15rem}
[hidden]{display:none!important}
`;

/** The first card that is held up: one that is not private, where there is one. */
export const firstHeld = (cards: readonly HeldCard[]): HeldCard | undefined =>
  cards.find(({ isPrivate }) => !isPrivate) ?? cards[0];

/**
 * The page that holds a card up to another phone (W3C HTML): the first card's code stands in it, so that it is seen before any script runs. `nonce` lets
 * in its style and its script, `script` is where that lies.
 */
export function handOverPage(of: HandOver, { nonce, script }: { nonce: string; script: string }): string {
  const { cards, occasions, words } = of;
  const first = firstHeld(cards);
  const data = JSON.stringify(of).replace(/</g, '\\u003c');
  const entry = ({ id, audience, isPrivate }: HeldCard) =>
    `<button type="button" data-card="${escaped(id)}" aria-pressed="${id === first?.id}"${isPrivate ? ' class="private"' : ''}>${escaped(audience)}</button>`;
  const [open, closed] = [cards.filter((card) => !card.isPrivate), cards.filter(({ isPrivate }) => isPrivate)];
  const group = (word: string, which: HeldCard[]) =>
    which.length > 0 ? `<p>${escaped(word)}</p>${which.map(entry).join('')}` : '';
  const body = first
    ? `<header><a href="/people">${escaped(words.toStudio)}</a>${
        occasions.length > 0
          ? `<label><span>${escaped(words.where)}</span> <select id="where"><option value="">${escaped(words.nowhere)}</option>${occasions
              .map(({ id, name }) => `<option value="${escaped(id)}">${escaped(name)}</option>`)
              .join('')}</select></label>`
          : ''
      }</header><main><h1 id="name">${escaped(first.name)}</h1><p id="audience">${escaped(first.audience)}</p>` +
      `<div id="code">${first.svg}</div><div class="acts"><button type="button" id="share" hidden>${escaped(words.share)}</button>` +
      `<button type="button" id="copy">${escaped(words.copy)}</button><button type="button" id="theirs" hidden>${escaped(words.theirs)}</button></div><p id="note" role="status" hidden></p>` +
      `<nav aria-label="${escaped(words.others)}">${group(words.others, open)}${group(words.privates, closed)}</nav></main><section id="form" hidden></section>`
    : `<header><a href="/people">${escaped(words.toStudio)}</a></header><main><h1>${escaped(words.none)}</h1><p>${escaped(words.noneHow)}</p></main>`;
  return (
    `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1">` +
    `<title>${escaped(words.title)}</title><link rel="icon" href="/hand-over/icon.svg"><link rel="manifest" href="/hand-over/manifest.webmanifest" crossorigin="use-credentials">` +
    `<meta name="theme-color" content="#ffffff"><style nonce="${escaped(nonce)}">${HAND_OVER_STYLE}</style></head><body>${body}` +
    `<script type="application/json" id="cards">${data}</script><script nonce="${escaped(nonce)}" src="${script}" defer></script></body></html>`
  );
}
