import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { buffer } from 'node:stream/consumers';
import { ZipFile } from 'yazl';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { loadWords, say } from '@/core/messages';
import { briefFiles, codeMmOf } from '@/core/print';
import { codeSvg, sideOf } from '@/core/qr';
import { writtenName } from '@/core/record';
import type { ShownDesignerLink } from '@/core/shown';
import type { Clock } from '@/server/clock';
import { compute } from '@/server/compute';
import {
  countFetched,
  designerLinkBy,
  designerLinksOf,
  endDesignerLink,
  forgetEndedLinks,
  insertDesignerLink,
} from '@/server/db/hand-outs/designer-links';
import { handOut } from '@/server/db/hand-outs/hand-outs';
import { inTenant, outsideTenants, type Tx } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { studioPlace } from '@/server/services/accounts/letters';
import { textOf } from '@/server/services/hand-outs/drawing';
import { plainName } from '@/server/services/hand-outs/own';
import { loadPublished } from '@/server/services/publishing/load-published';
import { ownOfChannel, plainCodeOf } from './parts';
import { pieceOf, shownLinks } from './print';

const DAY_MS = 86_400_000;
/** A link that has ended is told of for so many days more. */
const TOLD_DAYS = 30;
const WANTED = { channel: 'print', action: 'hand-out.make' } as const;

const hashOf = (token: string): Buffer => createHash('sha256').update(token).digest();

const linksOf = async (tx: Tx, id: string, clock: Clock): Promise<ShownDesignerLink[]> =>
  shownLinks(await designerLinksOf(tx, id, LIMITS.designerLinks), clock);

/** A link by which a designer fetches what a piece is made of, for some days; it is told once. Errors: NOT_ALLOWED, NOT_FOUND, INPUT, TOO_MANY_LINKS. */
export async function askDesigner(
  actor: Actor,
  id: string,
  days: number,
  clock: Clock,
): Promise<{ url: string; links: ShownDesignerLink[] }> {
  authorise(actor, 'hand-out.make');
  if (!Number.isInteger(days) || days < 1 || days > LIMITS.designerDays)
    throw new Refusal({ code: 'INPUT', field: 'days' });
  const token = randomBytes(24).toString('base64url');
  const links = await inTenant(actor, async (tx) => {
    await ownOfChannel(tx, actor, id, WANTED);
    await forgetEndedLinks(tx, id, new Date(clock.now() - TOLD_DAYS * DAY_MS));
    if ((await designerLinksOf(tx, id, LIMITS.designerLinks)).length >= LIMITS.designerLinks)
      throw new Refusal({ code: 'TOO_MANY_LINKS', limit: LIMITS.designerLinks });
    await insertDesignerLink(tx, {
      ...{ id: randomUUID(), organisation_id: actor.organisationId, hand_out_id: id, token_hash: hashOf(token) },
      ...{ ends_at: new Date(clock.now() + days * DAY_MS), created_at: new Date(clock.now()) },
    });
    await recordAudit(tx, actor, 'hand-out.package-shared', { kind: 'hand-out', id }, clock);
    return linksOf(tx, id, clock);
  });
  return { url: studioPlace(`package/${token}`), links };
}

/** Ends a link at once. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function endDesigner(
  actor: Actor,
  id: string,
  link: string,
  clock: Clock,
): Promise<{ links: ShownDesignerLink[] }> {
  authorise(actor, 'hand-out.make');
  return inTenant(actor, async (tx) => {
    await ownOfChannel(tx, actor, id, WANTED);
    if ((await endDesignerLink(tx, id, link)) === 0) throw new Refusal({ code: 'NOT_FOUND' });
    await recordAudit(tx, actor, 'hand-out.package-ended', { kind: 'hand-out', id }, clock);
    return { links: await linksOf(tx, id, clock) };
  });
}

/** A piece by the link for its designer: what is published and ticked for paper. Error: LINK_ENDED. */
async function linked(token: string, clock: Clock) {
  const link = await outsideTenants((db) => designerLinkBy(db, hashOf(token)));
  if (!link || link.ends_at.getTime() <= clock.now()) throw new Refusal({ code: 'LINK_ENDED' });
  const row = await inTenant(link.organisation_id, (tx) => handOut(tx, link.hand_out_id));
  const served = row && (await loadPublished({ code: row.code }, clock));
  // A piece that rests is made by nobody.
  if (row?.state !== 'out' || served?.state !== 'published') throw new Refusal({ code: 'LINK_ENDED' });
  return { link, row, served };
}

/** What a designer sees before the package is fetched: whose it is, where it will be, until when. Error: LINK_ENDED. */
export async function readPackage(
  token: string,
  clock: Clock,
): Promise<{ name: string; placement: string; ends: string }> {
  const { link, row, served } = await linked(token, clock);
  const name = writtenName(served.composition.name);
  return { name, placement: row.placement, ends: link.ends_at.toISOString() };
}

/** The package as a ZIP: the code as SVG and PDF, texts, colours, measures. Errors: LINK_ENDED, TOO_BUSY, TOO_LABORIOUS. */
export async function packageFile(token: string, clock: Clock): Promise<{ bytes: Buffer; fileName: string }> {
  const { link, row, served } = await linked(token, clock);
  const { composition, organisationId } = served;
  const language = composition.language ?? 'en';
  await loadWords(language);
  const piece = pieceOf(row);
  const { symbol, drawing, inks } = await plainCodeOf(row);
  const placed = piece.ground === 'artwork' ? piece.placed.find(({ kind }) => kind === 'code') : undefined;
  const widthMm = placed?.widthMm ?? codeMmOf(piece);
  const modules = sideOf(symbol.size);
  const title = `Code ${row.code}`;
  const pdf = await compute(
    'code file',
    { drawing, widthMm, dpi: 300, title, format: 'pdf', spot: null },
    { of: organisationId },
  );
  const texts = briefFiles({
    ...{ composition, language, piece, inks, link: textOf(row) },
    sentence: piece.sentence || say('save', language),
    code: { widthMm, moduleMm: widthMm / modules, modules },
  });
  const zip = new ZipFile();
  const mtime = new Date(served.publishedAt);
  zip.addBuffer(Buffer.from(codeSvg(drawing, { title, widthMm })), 'code.svg', { mtime });
  zip.addBuffer(pdf, 'code.pdf', { mtime });
  for (const { name, text } of texts) zip.addBuffer(Buffer.from(text), name, { mtime });
  zip.end();
  await inTenant(organisationId, (tx) => countFetched(tx, link.id));
  const stem = plainName(writtenName(composition.name)) || 'card';
  return { bytes: await buffer(zip.outputStream), fileName: `${stem}-for-print.zip` };
}
