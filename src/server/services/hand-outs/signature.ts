import { leavingOf, privacyOf, saidIn, withheldFrom, type Composition } from '@/core/card';
import { Refusal } from '@/core/errors';
import { same } from '@/core/card';
import { withoutBelow, withoutHouse } from '@/core/house';
import { wordsAbove } from '@/core/letter';
import type { Proof } from '@/core/proof';
import { writtenName } from '@/core/record';
import type { ShownSignature } from '@/core/shown';
import { VARIANTS, type Signature, type SignatureOptions, type Variant } from '@/core/signature';
import { contactFileName, writeContactFile } from '@/core/vcard';
import type { Clock } from '@/server/clock';
import { compute } from '@/server/compute';
import { card } from '@/server/db/cards/cards';
import { violatedUnique } from '@/server/db/jobs/failures';
import { setSignature, signatureOfCard } from '@/server/db/hand-outs/hand-outs';
import { inTenant } from '@/server/db/pool';
import { record } from '@/server/db/cards/records';
import { latestRevision } from '@/server/db/cards/revisions';
import { settings } from '@/server/env';
import { files } from '@/server/files';
import { freshMessageId, writeMail, type Letter } from '@/server/mail';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { limitRate } from '@/server/services/accounts/limit-rate';
import { houseOf } from '@/server/services/house/house-style';
import { postMail } from '@/server/services/mail/post-mail';
import { mailPicture } from '@/server/services/media/mail-picture';
import { contactContext } from '@/server/services/publishing/contact-context';
import { loadPublished, type PublishedCard } from '@/server/services/publishing/load-published';
import { addHandOut } from '@/server/services/publishing/publish-card';
import { linesOut } from '@/server/services/publishing/prove-card';
import { noteTaken, takenOf } from '@/server/services/wild/note-copy';
import { linkOf, ownHandOut, plainName } from './own';
import {
  linkedPicture,
  seenBelow,
  signatureContext,
  stripAddress,
  stripOf,
  wordsBelow,
  type PublishedSignature,
  type SignedPicture,
} from './signature-parts';

const PLACEMENT = 'Mail signature';

/** The signature of a published card: the one that there is, or a new one. Errors: NOT_ALLOWED, NOT_FOUND, CARD_NOT_PUBLISHED. */
export async function makeSignature(actor: Actor, cardId: string, clock: Clock): Promise<{ id: string }> {
  authorise(actor, 'hand-out.make');
  const found = () => foundSignature(actor, cardId, clock);
  // Two who ask for the first one at once both find what one of them made.
  return found().catch((error: unknown) => {
    if (violatedUnique(error) !== 'signature_of_card') throw error;
    return found();
  });
}

const foundSignature = (actor: Actor, cardId: string, clock: Clock): Promise<{ id: string }> =>
  inTenant(actor, async (tx) => {
    const row = await card(tx, cardId);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'hand-out.make', row.record_id);
    const known = await signatureOfCard(tx, cardId);
    if (known) return { id: known.id };
    if (row.state !== 'published') throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
    const at = new Date(clock.now());
    const { id } = await addHandOut(tx, actor.organisationId, cardId, PLACEMENT, at, () => ({
      ...{ channel: 'signature', frozen: null, revision: null, content: null, occasion_id: null },
    }));
    await recordAudit(tx, actor, 'hand-out.made', { kind: 'hand-out', id }, clock);
    return { id };
  });

type Own = {
  card: PublishedCard;
  signature: PublishedSignature;
  link: string;
  withheld: string[];
  leaving: ShownSignature['leaving'];
  placement: string;
  now: number;
};

/** A signature with all that it is made from, as recipients of mails would have it now. */
async function ownSignature(
  actor: Actor,
  id: string,
  action: 'hand-out.read' | 'hand-out.make',
  clock: Clock,
): Promise<Own> {
  authorise(actor, action);
  const { row, link } = await inTenant(actor, async (tx) => {
    const { row } = await ownHandOut(tx, actor, id, action);
    return { row, link: linkOf(row) };
  });
  if (row.channel !== 'signature') throw new Refusal({ code: 'NOT_FOUND' });
  const published = await loadPublished({ code: row.code }, clock);
  if (!published?.signature || published.state !== 'published') throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
  const { composition, signature } = published;
  const held = await inTenant(actor, async (tx) => {
    const owner = await card(tx, row.card_id);
    const person = owner && (await record(tx, owner.record_id));
    const revision = await latestRevision(tx, row.card_id);
    if (!owner || !person || !revision) throw new Refusal({ code: 'NOT_FOUND' });
    const house = (await houseOf(tx, owner))?.style ?? null;
    const lines = linesOut(owner, revision, person.body);
    const withheld = withheldFrom(person.body, lines, 'signature', actor.organisation.country);
    return {
      withheld: withoutBelow(withoutHouse(withheld, composition.look, house, 'signature'), wordsBelow(signature)),
      leaving: leavingOf(composition, null, ['signature'], (detail) => privacyOf(detail, person.body)),
    };
  });
  return { card: published, signature, link, ...held, placement: row.placement, now: clock.now() };
}

const languageOf = ({ language }: Composition) => language ?? 'en';

type Source = (picture: SignedPicture) => string | null;
export type MadeSignature = { signature: Signature; proof: Proof };

/** Writes a signature and proves what was written, away from who else is waiting. Errors: TOO_BUSY, TOO_LABORIOUS. */
function written(
  own: Own,
  options: SignatureOptions,
  variant: Variant,
  sourceOf: Source,
  pictureBytes: number,
): Promise<MadeSignature> {
  const { composition, organisationId } = own.card;
  const language = languageOf(composition);
  const strip = stripOf(own.signature, variant, own.now);
  return compute(
    'signature',
    {
      composition: saidIn(composition, language),
      layout: options.layout,
      parts: options[variant],
      context: signatureContext(own.signature, strip, own.link, language, sourceOf),
      held: {
        below: seenBelow(own.signature, strip),
        withheld: own.withheld,
        link: own.link,
        pictures: options.pictures,
        pictureBytes,
      },
    },
    { of: organisationId },
  );
}

/** Everything that the screen of a signature shows, both variants with their proof. Errors: NOT_ALLOWED, NOT_FOUND, CARD_NOT_PUBLISHED, TOO_BUSY. */
export async function openSignature(actor: Actor, id: string, clock: Clock): Promise<ShownSignature> {
  const own = await ownSignature(actor, id, 'hand-out.read', clock);
  const { options, photo, logo } = own.signature;
  const inside = options.pictures === 'inside' ? await carried(own.card.organisationId, own.signature) : [];
  const sourceOf: Source = (picture) =>
    options.pictures === 'linked'
      ? linkedPicture(own.link, picture)
      : (inside.find(({ hash }) => hash === picture.hash)?.data ?? null);
  const made = await Promise.all(
    VARIANTS.map(async (variant) => [variant, await written(own, options, variant, sourceOf, 0)] as const),
  );
  return {
    id,
    cardId: own.card.cardId,
    link: own.link,
    options,
    has: { photo: photo !== null, logo: logo !== null },
    locked: own.signature.locked,
    variants: Object.fromEntries(made) as Record<Variant, MadeSignature>,
    // What is linked is shown from the studio itself, whose pages load nothing from elsewhere.
    preview: [
      ...[photo, logo].flatMap((each) => (each ? [[linkedPicture(own.link, each), each.hash]] : [])),
      ...own.signature.strips.flatMap(({ id, picture }) =>
        picture ? [[stripAddress(own.link, { id }), picture.hash]] : [],
      ),
    ].map(([address, hash]) => [address!, `/api/pictures/${hash}?size=mail`]),
    leaving: own.leaving,
    confirmed: actor.emailConfirmed,
    mail: settings().MAIL_SERVER !== undefined,
  };
}

/** Keeps how a signature is laid out. Errors: NOT_ALLOWED, NOT_FOUND, LOCKED, and those of {@link openSignature}. */
export async function saveSignature(
  actor: Actor,
  id: string,
  options: SignatureOptions,
  clock: Clock,
): Promise<ShownSignature> {
  authorise(actor, 'hand-out.make');
  await inTenant(actor, async (tx) => {
    const { row, owner } = await ownHandOut(tx, actor, id, 'hand-out.make');
    if (row.channel !== 'signature') throw new Refusal({ code: 'NOT_FOUND' });
    const house = (await houseOf(tx, owner))?.style;
    const { signature } = house?.locks ?? {};
    if (house?.signature && signature !== undefined && !same(house.signature.options, options))
      throw new Refusal({ code: 'LOCKED', part: 'signature', reason: signature });
    await setSignature(tx, id, options);
    await recordAudit(tx, actor, 'hand-out.styled', { kind: 'hand-out', id }, clock);
  });
  return openSignature(actor, id, clock);
}

type Carried = { hash: string; name: string; type: string; bytes: Buffer; data: string };

/** The pictures of a signature in their smaller form, its logo as it shows by day and by night. Errors: STORE_UNAVAILABLE, TOO_BUSY, TOO_LABORIOUS. */
async function carried(organisationId: string, { photo, logo }: PublishedSignature): Promise<Carried[]> {
  const named = [photo, logo].flatMap((each) => each ?? []);
  const found = await Promise.all(
    named.map(async (picture): Promise<Carried[]> => {
      const { hash, kind, file } = picture;
      const bytes = kind === 'logo' ? await mailPicture(organisationId, picture) : await files().get(file);
      if (!bytes) return [];
      const type = bytes[0] === 0x89 ? 'image/png' : 'image/jpeg';
      const name = `${hash.slice(0, 12)}.${type.slice(6)}`;
      return [{ hash, name, type, bytes, data: `data:${type};base64,${bytes.toString('base64')}` }];
    }),
  );
  return found.flat();
}

/** A mail that ends in a signature, its pictures as parts of it where they are to be inside, the contact file attached where that is wanted. */
async function mailOf(own: Own, variant: Variant) {
  const { options } = own.signature;
  const inside =
    options.pictures === 'inside' && options[variant].picture
      ? await carried(own.card.organisationId, own.signature)
      : [];
  const sourceOf: Source = (picture) => {
    if (options.pictures === 'linked') return linkedPicture(own.link, picture);
    const part = inside.find(({ hash }) => hash === picture.hash);
    return part ? `cid:${part.name}@signature` : null;
  };
  const pictureBytes = inside.reduce((sum, { bytes }) => sum + Math.ceil((bytes.length * 4) / 3), 0);
  const { signature, proof } = await written(own, options, variant, sourceOf, pictureBytes);
  const failing = proof.checks.find(({ passed }) => !passed);
  if (failing) throw new Refusal({ code: 'PROOF_FAILED', channel: 'signature', finding: failing.finding });
  const attachments: NonNullable<Letter['attachments']> = inside.map(({ name, type, bytes }) => ({
    name,
    type,
    bytes,
    id: `${name}@signature`,
  }));
  if (options[variant].contact) attachments.push(contactOf(own.card));
  return { signature, attachments };
}

/** The contact file of a card, as mails carry it. */
export function contactOf({ cardId, organisationId, address, publishedAt, inFile, composition }: PublishedCard) {
  const context = contactContext({ cardId, organisationId, address, revised: publishedAt, ...inFile }, '3.0');
  const file = writeContactFile(composition, context);
  return { name: contactFileName(composition), type: 'text/vcard; charset=utf-8', bytes: Buffer.from(file) };
}

const SAMPLE: Record<Variant, string> = {
  message: 'This is a message of yours, to see what stands below it.',
  reply: 'This is a reply of yours, to see what stands below it.',
};
/** Sends a member a mail that ends in a signature, to their own confirmed address. Errors: EMAIL_UNCONFIRMED, MAIL_CLOSED, PROOF_FAILED, TOO_MANY_REQUESTS, and those of {@link openSignature}. */
export async function sendTestMail(actor: Actor, id: string, variant: Variant, clock: Clock): Promise<void> {
  const own = await ownSignature(actor, id, 'hand-out.make', clock);
  // Anybody may sign up with anybody's address.
  if (!actor.emailConfirmed) throw new Refusal({ code: 'EMAIL_UNCONFIRMED' });
  await limitRate('test mail', actor.userId, clock);
  const { signature, attachments } = await mailOf(own, variant);
  await inTenant(actor, (tx) =>
    postMail(
      tx,
      {
        ...{
          organisationId: actor.organisationId,
          userId: actor.userId,
          kind: 'test mail',
          urgent: true,
          holdsMs: 86_400_000,
        },
        to: { name: actor.name, address: actor.email },
        from: { name: writtenName(own.card.composition.name) },
        letter: {
          subject: 'Your signature, to look at',
          ...wordsAbove(SAMPLE[variant], { html: signature.html, text: `-- \n${signature.text}` }),
        },
        attachments,
      },
      clock,
    ),
  );
}

/** Notes that a signature was copied, to be pasted where mail is written. Errors: those of {@link openSignature}. */
export async function signatureTaken(actor: Actor, id: string, clock: Clock): Promise<void> {
  const { card } = await ownSignature(actor, id, 'hand-out.read', clock);
  await noteSigned(actor, id, card, clock);
}

const noteSigned = (actor: Actor, id: string, card: PublishedCard, clock: Clock): Promise<void> =>
  inTenant(actor, (tx) =>
    noteTaken(tx, takenOf({ id }, card, clock), 'signature', card.composition, actor.organisation.country),
  );

export type SignatureFile = { bytes: Buffer; fileName: string; type: string };

/** A signature as a file: its HTML, its text, or a mail that ends in it, which mail programs open as a draft. Errors: PROOF_FAILED and those of {@link openSignature}. */
export async function signatureFile(
  actor: Actor,
  id: string,
  { form, variant }: { form: 'html' | 'txt' | 'eml'; variant: Variant },
  clock: Clock,
): Promise<SignatureFile> {
  const own = await ownSignature(actor, id, 'hand-out.read', clock);
  const fileName = `${plainName(writtenName(own.card.composition.name))}-signature.${form}`;
  if (form !== 'eml') {
    const shown = await openSignature(actor, id, clock);
    const { html, text } = shown.variants[variant].signature;
    await noteSigned(actor, id, own.card, clock);
    const type = form === 'html' ? 'text/html; charset=utf-8' : 'text/plain; charset=utf-8';
    return { bytes: Buffer.from(form === 'html' ? html : text), fileName, type };
  }
  const { signature, attachments } = await mailOf(own, variant);
  await noteSigned(actor, id, own.card, clock);
  const from = { name: writtenName(own.card.composition.name), address: actor.email };
  const bytes = await writeMail({
    ...{
      id: freshMessageId(actor.email),
      date: new Date(clock.now()),
      from,
      to: from,
      subject: '',
      attachments,
      draft: true,
    },
    ...wordsAbove('', { html: `<br>${signature.html}`, text: `\n\n-- \n${signature.text}` }),
  });
  return { bytes, fileName, type: 'message/rfc822' };
}
