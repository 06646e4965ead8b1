import type { Block, ComposedLine } from '@/core/card';
import { directionOf, type Language } from '@/core/language';
import { FIRST_LOOK, type Look } from '@/core/look';
import { escapeHtml } from '@/core/markup';
import { filled, say } from '@/core/messages';
import { replyWords, type ReplyText } from '@/core/messages/replies';
import { lookStyle } from './look-style';
import { NOTICE_STYLE } from './notice';
import { page } from './page';
import { FORM_STYLE, formFields, replyForm, type FormFilled } from './reply-form';
import { PAGE_STYLE } from './style';
import type { ReplyTarget } from './context';

type FormBlock = Extract<Block, { kind: 'reply form' }>;

/** The style sheets of a page about a reply, in the look of the card that it belongs to. */
export const replyStyles = (look: Look | null, language: Language): string[] => [
  PAGE_STYLE,
  NOTICE_STYLE,
  FORM_STYLE,
  HELD_STYLE,
  lookStyle(look ?? FIRST_LOOK, { filled: new Set(), name: '', language, ground: null }),
];

const HELD_STYLE = `
.note h2{font:var(--m)/1.25 var(--T);margin:26px 0 8px}
.note .kept{font-size:var(--k);color:var(--q);overflow-wrap:anywhere}
.note form{margin:0 0 14px}
.note .said{border-inline-start:3px solid var(--e);padding:2px 0 2px 12px}
.note .low button{border-color:var(--q);font-size:var(--f);padding:10px 8px}
`.replace(/\n/g, '');

type Shell = { language: Language; look: Look | null; title: string };

const shell = ({ language, look, title }: Shell, inner: string): string =>
  page({
    language,
    title,
    meta: '<meta name="robots" content="noindex">',
    body: `<main><div class="note"><h1>${escapeHtml(title)}</h1>${inner}</div></main>`,
    styles: replyStyles(look, language),
    taps: null,
    worker: null,
    script: false,
  });

const p = (text: string, kind = '') => `<p${kind ? ` class="${kind}"` : ''}>${escapeHtml(text)}</p>`;

/** A reply that was not taken: the form once more with everything that was typed, and what is wrong beside its field. */
export function renderUnsent(
  form: { block: FormBlock; lines: ComposedLine[]; holder: string; reply: ReplyTarget; filledIn: FormFilled | null },
  { language, look, why }: { language: Language; look: Look; why: string },
): string {
  const said = replyWords(language);
  const { block, lines, holder, reply, filledIn } = form;
  return shell(
    { language, look, title: said.mistakeTitle },
    `${p(why, 'said')}${replyForm(block, lines, { language, holder, reply: { ...reply, script: null } }, filledIn)}`,
  );
}

/** What a page behind a lasting link shows. `told` is null while whoever looks has not said the name, or where nothing is held. */
export type HeldPage = {
  /** `/r/TOKEN`, and the whole of it with the host. */
  base: string;
  address: string;
  /** Whose card it is. */
  holder: string;
  contactFile: string | null;
  /** What was just done, in the words of that. */
  said: ReplyText[];
  held: 'nothing' | 'closed' | { form: FormBlock; filledIn: FormFilled; consent: string; months: number };
  date: string;
  /** It was come to by a mail: whose address it is may be somebody else's. */
  byMail: boolean;
  views: 'not asked' | 'off' | 'on';
};

/** The page of a lasting link: the card, and what is held about whoever sent a reply, to be seen, corrected and erased. */
export function renderHeld(of: HeldPage, { language, look }: { language: Language; look: Look | null }): string {
  const said = replyWords(language);
  const name = of.holder;
  const text = (key: ReplyText) => filled(said[key], { name, date: of.date });
  const post = (to: string, word: string, inner = '', kind = '') =>
    `<form method="post" action="${escapeHtml(`${of.base}/${to}`)}" class="rf${kind}">${inner}<button>${escapeHtml(word)}</button></form>`;
  const thanks = of.said.includes('thanksText');
  const told = of.said.map((key) => p(text(key), 'said')).join('');
  const save = of.contactFile
    ? `<a class="save" href="${escapeHtml(of.contactFile)}">${escapeHtml(say('save', language))}</a>`
    : '';
  const card =
    `<div class="acts"><nav aria-label="${escapeHtml(say('actions', language))}">${save}<a${save ? '' : ' class="save"'} href="${escapeHtml(`${of.base}/card`)}">${escapeHtml(said.openCard)}</a></nav></div>` +
    p(said.keepLink, 'kept') +
    `<p class="kept"${directionOf(language) === 'rtl' ? ' dir="ltr"' : ''}>${escapeHtml(of.address)}</p>`;
  const held =
    of.held === 'nothing'
      ? p(said.nothingHeld)
      : of.held === 'closed'
        ? p(said.heldClosed) +
          `<form method="post" action="${escapeHtml(`${of.base}/held`)}" class="rf"><input name="name" autocomplete="name" required maxlength="200" aria-label="${escapeHtml(said.heldTitle)}"><button>${escapeHtml(said.heldShow)}</button></form>`
        : p(text('heldText')) +
          heldForm(of, of.held, language) +
          p(said.agreedTo, 'kept') +
          p(of.held.consent, 'kept') +
          (of.views === 'not asked'
            ? ''
            : of.views === 'on'
              ? p(text('viewsOn')) + post('views', text('viewsOff'), known(of.held), ' low')
              : post('views', text('views'), `${known(of.held)}<input type="hidden" name="on" value="1">`, ' low')) +
          p(text('eraseText'), 'kept') +
          post('erase', said.erase, known(of.held));
  const address = of.byMail && of.held !== 'nothing' ? post('address', said.removeAddress, '', ' low') : '';
  return shell(
    { language, look, title: thanks ? said.thanksTitle : name },
    `${told}${card}<h2>${escapeHtml(said.heldTitle)}</h2>${held}${address}`,
  );
}

/** Whoever saw what is held has said the name; each further act says it again, so that nothing has to be kept of them. */
const known = ({ filledIn }: { filledIn: FormFilled }) =>
  `<input type="hidden" name="known" value="${escapeHtml(filledIn.typed.name)}">`;

/** The fields of a reply as it was sent, to be corrected. */
const heldForm = ({ base }: HeldPage, held: Exclude<HeldPage['held'], string>, language: Language): string =>
  `<form method="post" action="${escapeHtml(`${base}/held`)}" class="rf">${known(held)}${formFields(held.form, language, held.filledIn)}` +
  `<button>${escapeHtml(replyWords(language).correct)}</button></form>`;
