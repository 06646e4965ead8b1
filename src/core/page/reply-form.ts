import type { Block, ComposedLine } from '@/core/card';
import type { Language } from '@/core/language';
import { LIMITS } from '@/core/limits';
import { escapeHtml } from '@/core/markup';
import { filled, say } from '@/core/messages';
import type { ReplyField, TypedReply } from '@/core/replies';
import type { ReplyTarget } from './context';

type FormBlock = Extract<Block, { kind: 'reply form' }>;

/** What a form that comes back shows: everything that was typed, and what is wrong beside its field. */
export type FormFilled = { typed: TypedReply; wrong: Partial<Record<ReplyField, string>> };

/** How a browser fills a field by itself (WHATWG HTML, autofill) and which keys a phone shows for it. */
const AUTOFILL: Record<ReplyField, string> = {
  name: ' autocomplete="name" required',
  reach: ' autocomplete="email" inputmode="email" required',
  note: '',
  firm: ' autocomplete="organization"',
  title: ' autocomplete="organization-title"',
  other: ' autocomplete="tel"',
  answer: ' autocomplete="off"',
};
const MOST: Record<ReplyField, number> = {
  name: LIMITS.name,
  reach: LIMITS.email,
  note: LIMITS.replyNote,
  firm: LIMITS.name,
  title: LIMITS.name,
  other: LIMITS.email,
  answer: LIMITS.replyNote,
};

/** The fields that a form asks for, in their order, each as it is called. */
function fieldsOf({ fields, question }: FormBlock, language: Language): [ReplyField, string][] {
  const asked = new Set<string>(fields);
  return [
    ['name', say('replyName', language)],
    ['reach', say('replyReach', language)],
    ...(asked.has('firm') ? [['firm', say('replyFirm', language)] as [ReplyField, string]] : []),
    ...(asked.has('title') ? [['title', say('replyTitle', language)] as [ReplyField, string]] : []),
    ...(asked.has('other') ? [['other', say('replyOther', language)] as [ReplyField, string]] : []),
    ['note', say('replyNote', language)],
    ...(asked.has('answer') && question.trim() ? [['answer', question.trim()] as [ReplyField, string]] : []),
  ];
}

function field([name, label]: [ReplyField, string], filledIn: FormFilled | null): string {
  const value = filledIn?.typed[name] ?? '';
  const wrong = filledIn?.wrong[name];
  // What comes back too long stays whole: its owner shortens it.
  const common = `name="${name}" maxlength="${Math.max(MOST[name], value.length)}"${AUTOFILL[name]}${wrong ? ` aria-invalid="true" aria-describedby="w-${name}"` : ''}`;
  const input =
    name === 'note' || name === 'answer'
      ? `<textarea rows="2" ${common}>${value ? `\n${escapeHtml(value)}` : ''}</textarea>`
      : `<input ${common}${value ? ` value="${escapeHtml(value)}"` : ''}>`;
  return `<label>${escapeHtml(label)}${input}</label>${wrong ? `<p class="w" id="w-${name}">${escapeHtml(wrong)}</p>` : ''}`;
}

/** The fields of a form, with what was typed and what is wrong beside each. */
export const formFields = (block: FormBlock, language: Language, filledIn: FormFilled | null): string =>
  fieldsOf(block, language)
    .map((each) => field(each, filledIn))
    .join('');

/** The sentence that whoever sends a reply agrees to. A change of its meaning gets another number: both are kept with what was sent. */
export const CONSENT = 1;
export const consentIn = (language: Language, name: string, months: number): string =>
  filled(say('replyConsent', language), { name, months });

/**
 * A form by which a recipient leaves their details, complete without a script: sent as `application/x-www-form-urlencoded`, an own contact file instead as
 * `multipart/form-data`. Where the page shows a number that takes texts, a text of the recipient's own is a third way (RFC 5724).
 */
export function replyForm(
  block: FormBlock,
  lines: ComposedLine[],
  { language, holder, reply }: { language: Language; holder: string; reply: ReplyTarget | null },
  filledIn: FormFilled | null = null,
): string {
  const { action = null, script = null, months = LIMITS.leadMonths } = reply ?? {};
  const open = (more: string) =>
    action === null ? '<fieldset disabled>' : `<form method="post" action="${escapeHtml(action)}"${more}>`;
  const close = action === null ? '</fieldset>' : '</form>';
  const hidden = `<input type="hidden" name="lang" value="${escapeHtml(language)}"><input type="hidden" name="consent" value="${CONSENT}">`;
  const send = `<button>${escapeHtml(say('replySend', language))}</button>`;
  const phone = lines.find(
    ({ detail, on }) => detail.kind === 'phone' && detail.uses.includes('text') && on.includes('page'),
  );
  const sms =
    phone && phone.detail.kind === 'phone'
      ? `<a href="sms:${escapeHtml(phone.detail.number)}?body=${escapeHtml(encodeURIComponent(`${filled(say('replySms', language), { name: holder })} `))}" data-l="${escapeHtml(phone.id)}">${escapeHtml(say('replyText', language))}</a>`
      : '';
  return (
    `<div class="rf">${open(script ? ` data-r="${escapeHtml(script)}"` : '')}` +
    formFields(block, language, filledIn) +
    `<p class="hp" aria-hidden="true"><input name="more" tabindex="-1" autocomplete="off"></p>${hidden}<input type="hidden" name="took">` +
    `<p class="q">${escapeHtml(consentIn(language, holder, months))}</p>${send}${close}` +
    `<details><summary>${escapeHtml(say('replyFile', language))}</summary>${open(' enctype="multipart/form-data"')}<input type="file" name="file" accept=".vcf,text/vcard" required aria-label="${escapeHtml(say('replyFile', language))}">${hidden}${send}${close}</details>${sms}</div>`
  );
}

/** What a form needs of a page's style sheet; letters of 16 px at least, since a phone zooms into smaller fields. */
export const FORM_STYLE = `
.rf label{display:block;margin:0 0 12px;font-size:var(--k);color:var(--q)}
.rf input:not([type=hidden]),.rf textarea{display:block;width:100%;font:max(16px,var(--f))/1.4 var(--X);color:var(--i);background:var(--s);border:1.5px solid var(--q);border-radius:var(--r);padding:11px 12px;margin:3px 0 0}
.rf :focus-visible{outline:3px solid var(--e);outline-offset:1px}
.rf fieldset{border:0;margin:0;padding:0}
.rf .hp{position:absolute;width:1px;height:1px;overflow:hidden;clip-path:inset(50%);margin:0}
.rf .q{font-size:var(--k);color:var(--q)}
.rf .w{margin:-8px 0 12px!important;color:var(--i);font-size:var(--k);border-inline-start:3px solid #b3372b;padding-inline-start:9px}
.rf button{display:block;width:100%;font:var(--m) var(--T);color:var(--i);background:none;border:1.5px solid var(--i);border-radius:var(--r);padding:13px 8px;cursor:pointer}
.rf summary,.rf>a{display:inline-block;color:var(--i);padding:10px 0;margin-inline-end:22px;cursor:pointer;text-decoration:underline;text-decoration-color:var(--e);text-underline-offset:4px;list-style:none}
.rf details{display:inline}
.rf details[open]{display:block}
.rf [role=status]{padding:9px 12px;border-inline-start:3px solid var(--e);margin:0 0 12px}
@media print{.rf{display:none}}
`.replace(/\n/g, '');

/** Fetches a form's script when one of its fields is touched, or when a reply of before still waits on this phone. `data-r` of the form says where it lies. */
export const REPLY_LOADER = `(function(d){var f=d.querySelector("form[data-r]"),k,o,l=function(){if(!o){o=1;var s=d.createElement("script");s.src=f.dataset.r;d.body.append(s)}};if(f){f.addEventListener("focusin",l);try{k=localStorage["reply "+f.getAttribute("action")]}catch(e){}k&&l()}})(document)`;
