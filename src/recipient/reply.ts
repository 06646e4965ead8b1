import { saidIn, type Block } from '@/core/card';
import { Refusal, type Problem } from '@/core/errors';
import { ourLanguage, readLanguage, type Language } from '@/core/language';
import { LIMITS } from '@/core/limits';
import { filled } from '@/core/messages';
import { replyWords, type ReplyText } from '@/core/messages/replies';
import type { FormFilled } from '@/core/page';
import { renderUnsent, replyStyles } from '@/core/page/reply-page';
import { shownValue, writtenName } from '@/core/record';
import { readReply, typedOf, type ReplyField, type TypedReply, type WrongField } from '@/core/replies';
import { compute } from '@/server/compute';
import { publicUrlOf, transportHeaders } from '@/server/env';
import type { Clock } from '@/server/clock';
import type { PublishedCard } from '@/server/services/publishing/load-published';
import type { IncomingReply, TakenAnswer } from '@/server/services/replies/take-reply';
import { languageFor } from './language';
import { COMMON_HEADERS, policyOf } from './outputs';
import { bodyOf, type Asked, type RecipientAnswer, type RecipientRequest } from './request';

/** What taking a reply needs from the services; tests pass their own. */
export type ReplyServices = {
  clock: Clock;
  take: (card: PublishedCard, incoming: IncomingReply, clock: Clock) => Promise<TakenAnswer>;
};

type FormBlock = Extract<Block, { kind: 'reply form' }>;

/** What the fields of a form held, and what came with them; `problem` where a contact file could not be used. */
type Posted = { fields: URLSearchParams; typed: TypedReply; problem: ReplyText | null };

const NOTHING: TypedReply = typedOf(() => null);

/** Whether a form was sent by a page of ours: browsers say where one comes from (Fetch Metadata; RFC 6454). */
function isOurs(request: RecipientRequest): boolean {
  const [site, origin] = [request.header('sec-fetch-site'), request.header('origin')];
  if (site) return site === 'same-origin' || site === 'none';
  return !origin || (URL.canParse(origin) && new URL(origin).host === request.header('host'));
}

/** Parts of a form with a file: the file, and a few words about it. */
const MOST_PARTS = 12;

/** A form as it came (WHATWG URL 5, RFC 7578). A contact file stands in the place of what is typed. */
async function posted(request: RecipientRequest, card: PublishedCard, country: string): Promise<Posted> {
  const type = request.header('content-type');
  const body = bodyOf(request);
  if (!/^multipart\/form-data/i.test(type)) {
    const fields = new URLSearchParams(body.subarray(0, LIMITS.replyBytes).toString('utf8'));
    return { fields, typed: typedOf((field) => fields.get(field)), problem: null };
  }
  const boundary = /boundary="?([^";]{1,70})"?/i.exec(type)?.[1] ?? '';
  const parts = boundary ? body.toString('latin1').split(boundary, MOST_PARTS + 2).length : 0;
  const form =
    parts > 0 && parts <= MOST_PARTS
      ? await new Response(new Uint8Array(body), { headers: { 'Content-Type': type } }).formData().catch(() => null)
      : null;
  const fields = new URLSearchParams();
  form?.forEach((value, name) => typeof value === 'string' && fields.append(name, value));
  const file = form?.get('file');
  if (!file || typeof file === 'string') return { fields, typed: NOTHING, problem: 'fileUnreadable' };
  return { fields, ...(await readFile(Buffer.from(await file.arrayBuffer()), card, country)) };
}

async function readFile(
  bytes: Buffer,
  card: PublishedCard,
  country: string,
): Promise<{ typed: TypedReply; problem: ReplyText | null }> {
  try {
    const contact = await compute('single contact', { bytes, country }, { of: card.organisationId });
    if (!contact) return { typed: NOTHING, problem: 'fileMany' };
    const { name, details } = contact.record;
    const of = (kind: string) => details.flatMap((detail) => (detail.kind === kind ? shownValue(detail) : []));
    const [mail, phone] = [of('email')[0], of('phone')[0]];
    const [reach = '', other = ''] = [mail, phone].filter((way) => way !== undefined);
    const typed = {
      ...{ ...NOTHING, name: writtenName(name), reach, other },
      ...{ firm: of('organisation')[0] ?? '', title: of('title')[0] ?? '' },
    };
    return { typed, problem: reach ? null : 'fileBare' };
  } catch (error) {
    if (error instanceof Refusal && UNREADABLE.has(error.problem.code))
      return { typed: NOTHING, problem: 'fileUnreadable' };
    throw error;
  }
}

const UNREADABLE = new Set<Problem['code']>(['NOT_A_CONTACT_FILE', 'CONTACT_FILE_EMPTY', 'TOO_LABORIOUS']);

/** What is wrong with each field, in the recipient's language. */
export function wrongIn(
  wrong: Partial<Record<ReplyField, WrongField>>,
  language: Language,
): Partial<Record<ReplyField, string>> {
  const said = replyWords(language);
  return Object.fromEntries(
    Object.entries(wrong).map(([field, found]) => [
      field,
      filled(said[found.why], found.why === 'long' ? { limit: found.limit } : {}),
    ]),
  );
}

/** A page of ours about a reply, never kept by anybody. */
export const replyHtml = (
  html: string,
  {
    status,
    language,
    styles,
    organisationId,
  }: { status: number; language: Language; styles: string[]; organisationId: string },
): RecipientAnswer => {
  const body = Buffer.from(html);
  return {
    status,
    headers: {
      ...COMMON_HEADERS,
      ...transportHeaders(publicUrlOf(organisationId)),
      'Content-Type': 'text/html; charset=utf-8',
      'Content-Language': language,
      'Content-Security-Policy': policyOf(styles, { form: true }),
      'Cache-Control': 'no-store',
      'X-Robots-Tag': 'noindex',
      'Content-Length': String(body.length),
    },
    body,
  };
};

export const seeOther = (where: string): RecipientAnswer => ({
  status: 303,
  headers: { ...COMMON_HEADERS, Location: where, 'Cache-Control': 'no-store', 'Content-Length': '0' },
  body: '',
});

/** Answers a form that was sent to a card: by a redirection to thanks (RFC 9110 15.4.4), or by the form with everything that was typed. */
export async function answerReply(
  request: RecipientRequest,
  card: PublishedCard,
  asked: Asked,
  sinceView: number | null,
  services: ReplyServices,
): Promise<RecipientAnswer | null> {
  const block = card.composition.blocks.find((each): each is FormBlock => each.kind === 'reply form');
  if (!block) return null;
  if (request.method !== 'POST') return seeOther(asked.base);
  const { country } = card;
  const form = request.body !== null && (await posted(request, card, country));
  const wanted = form && readLanguage(form.fields.get('lang') ?? '');
  const language = wanted ? ourLanguage(wanted) : languageFor(card, request);
  const said = replyWords(language);
  const composition = saidIn(card.composition, language);
  const holder = writtenName(composition.name);
  const shown = composition.blocks.find((each): each is FormBlock => each.kind === 'reply form') ?? block;
  const unsent = (status: number, why: string, filledIn: FormFilled | null) =>
    replyHtml(
      renderUnsent(
        {
          ...{ block: asAsked(shown, filledIn), lines: composition.lines, holder, filledIn },
          reply: { action: `${asked.base}/reply`, script: null, months: card.leads.months },
        },
        { language, look: composition.look, why },
      ),
      { status, language, styles: replyStyles(composition.look, language), organisationId: card.organisationId },
    );
  if (!form) return unsent(413, said.tooLarge, null);
  const { typed, problem, fields } = form;
  if (!card.address) return unsent(409, said.draftText, { typed, wrong: {} });
  if (problem) return unsent(422, said[problem], { typed, wrong: {} });
  const read = readReply(typed, { country, question: shown.question });
  if (!read.ok) return unsent(422, said.mistakeText, { typed, wrong: wrongIn(read.wrong, language) });
  if (!isOurs(request)) return unsent(403, said.elsewhereText, { typed, wrong: {} });
  const took = fields.get('took') ?? '';
  try {
    const { token, mailed, waits } = await services.take(
      card,
      {
        ...{ told: read.told, email: read.email, language },
        from: `${request.address} ${request.header('user-agent').slice(0, 500)}`,
        signs: { hidden: fields.get('more') ?? '', took: took === '' ? null : Number(took), sinceView },
      },
      services.clock,
    );
    return seeOther(`/r/${token}?sent=${waits ? 'waits' : mailed ? 'mailed' : 'taken'}`);
  } catch (error) {
    if (!(error instanceof Refusal) || error.problem.code !== 'TOO_MANY_REQUESTS') throw error;
    const minutes = Math.max(1, Math.ceil(error.problem.seconds / 60));
    return unsent(429, filled(said.tooMany, { minutes }), { typed, wrong: {} });
  }
}

/** The form with fields for all that was typed: a contact file may say more than it asks for. */
const asAsked = (block: FormBlock, filledIn: FormFilled | null): FormBlock => ({
  ...block,
  fields: (['firm', 'title', 'other', 'answer'] as const).filter(
    (field) => block.fields.includes(field) || Boolean(filledIn?.typed[field]),
  ),
});
