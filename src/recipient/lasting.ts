import type { Block } from '@/core/card';
import { longDayIn } from '@/core/language';
import { judge } from '@/core/response';
import { Refusal } from '@/core/errors';
import type { ReplyText } from '@/core/messages/replies';
import { renderHeld, replyStyles } from '@/core/page/reply-page';
import { readReply, typedOf, type ReplyField, type TypedReply } from '@/core/replies';
import { organisationOfHost, publicUrlOf } from '@/server/env';
import type { Clock } from '@/server/clock';
import {
  agreeHeld,
  correctHeld,
  eraseHeld,
  hasSaidName,
  noteFollowed,
  openLasting,
  removeAddress,
  type Held,
} from '@/server/services/replies/held';
import { readLastingPath, type AskedLasting } from './asked';
import { notAllowed, notFound } from './notices';
import { replyHtml, seeOther, wrongIn } from './reply';
import { bodyOf, type RecipientAnswer, type RecipientRequest } from './request';

/** What the address says that was just done, and the words for it. */
const SAID: Record<string, ReplyText[]> = {
  mailed: ['thanksText', 'mailGoes'],
  waits: ['thanksText', 'waits'],
  taken: ['thanksText'],
};

type Form = Extract<Block, { kind: 'reply form' }>;
/** A form with all fields that have something in them. */
const formOf = (typed: TypedReply, question: string): Form => ({
  ...{ kind: 'reply form', id: 'held', on: true, before: false, title: '', question },
  fields: (['firm', 'title', 'other', 'answer'] as const).filter((field) => typed[field] !== ''),
});

type Said = {
  said?: ReplyText[];
  known?: boolean;
  status?: number;
  typed?: TypedReply;
  wrong?: Partial<Record<ReplyField, string>>;
};

function page(held: Held, token: string, { said = [], known = !held.byMail, status = 200, typed, wrong = {} }: Said) {
  const { told, language, organisationId } = held;
  const shown = typed ?? (told && typedOf((field) => told[field]));
  const html = renderHeld(
    {
      ...{ base: `/r/${token}`, address: `${publicUrlOf(organisationId)}/r/${token}`, holder: held.holder, said },
      contactFile: held.address && `/c/${held.address}.vcf`,
      held:
        !told || !shown
          ? 'nothing'
          : known
            ? {
                form: formOf(shown, told.question),
                filledIn: { typed: shown, wrong },
                consent: held.consent,
                months: 0,
              }
            : 'closed',
      date: longDayIn(language, held.timeZone, Date.parse(held.at)),
      byMail: held.byMail,
      // Only of whom we know that the address is theirs.
      views: !held.followed ? 'not asked' : held.agreed ? 'on' : 'off',
    },
    { language, look: held.look },
  );
  return replyHtml(html, { status, language, styles: replyStyles(held.look, language), organisationId });
}

/** Answers a lasting link: the card wherever it is by now, and what is held about whoever sent a reply. Null where the path is no such link. */
export async function answerLasting(request: RecipientRequest, clock: Clock): Promise<RecipientAnswer | null> {
  const asked = readLastingPath(request.path);
  if (!asked) return null;
  const { token, what } = asked;
  const held = await openLasting(token);
  const only = organisationOfHost(request.header('host'));
  if (!held || (only && only !== held.organisationId)) return notFound(request);
  const reads = request.method === 'GET' || request.method === 'HEAD';
  if (what === 'page' || what === 'card') {
    if (!reads) return notAllowed('GET, HEAD');
    if (what === 'page') return page(held, token, { said: SAID[request.query.get('sent') ?? ''] ?? [] });
    if (held.byMail && isPerson(request)) await noteFollowed(held, clock);
    return held.address ? seeOther(`/c/${held.address}`) : page(held, token, {});
  }
  if (reads) return seeOther(`/r/${token}`);
  if (request.method !== 'POST') return notAllowed('POST');
  return change(request, asked, held, clock);
}

const isPerson = (request: RecipientRequest): boolean =>
  judge({
    ...{ method: request.method, userAgent: request.header('user-agent').slice(0, 500), range: '' },
    purpose: request.header('sec-purpose') || request.header('purpose'),
    ...{ destination: request.header('sec-fetch-dest'), site: request.header('sec-fetch-site') },
  }) === 'person';

/** What somebody asks for who may be anybody that has the link: by a mail the name is asked first. */
async function change(
  request: RecipientRequest,
  { token, what }: AskedLasting,
  held: Held,
  clock: Clock,
): Promise<RecipientAnswer> {
  const fields = new URLSearchParams(bodyOf(request).toString('utf8'));
  if (what === 'address') {
    if (held.byMail) await removeAddress(held, clock);
    return page((await openLasting(token)) ?? { ...held, told: null }, token, { said: ['removed'], known: false });
  }
  const corrects = what === 'held' && fields.has('reach');
  const name = fields.get(what === 'held' && !corrects ? 'name' : 'known') ?? '';
  const known = await hasSaidName(held, name, clock).catch((error: unknown) => {
    if (error instanceof Refusal && error.problem.code === 'TOO_MANY_REQUESTS') return false;
    throw error;
  });
  if (!known)
    return page(held, token, { said: held.told ? ['notTheName'] : [], known: false, status: held.told ? 403 : 200 });
  if (what === 'erase') {
    await eraseHeld(held, clock);
    return page({ ...held, told: null }, token, { said: ['erased'] });
  }
  if (what === 'views') await agreeHeld(held, fields.get('on') === '1', clock);
  if (!corrects) return page((await openLasting(token)) ?? held, token, { known: true });
  const typed = typedOf((field) => fields.get(field));
  const read = readReply(typed, { country: held.country, question: held.told?.question ?? '' });
  if (!read.ok)
    return page(held, token, { known: true, status: 422, typed, wrong: wrongIn(read.wrong, held.language) });
  await correctHeld(held, read.told, read.email, clock);
  return page((await openLasting(token)) ?? held, token, { said: ['corrected'], known: true });
}
