import type { ShownCode } from '@/core/shown';
import jsQR from 'jsqr';
import sharp from 'sharp';
import { Refusal } from '@/core/errors';
import { reconcile, squeeze, withheldFrom, type Composition } from '@/core/card';
import { LIMITS } from '@/core/limits';
import { TAG_ROOM, tagMemory } from '@/core/ndef';
import { CODE_BYTES, drawSymbol, liveCodeText, QUIET_ZONE, symbolFor } from '@/core/qr';
import { cleanLine } from '@/core/record';
import { writeFrozenContact } from '@/core/vcard';
import { card, type CardRow } from '@/server/db/cards';
import { handOut, type HandOutRow } from '@/server/db/hand-outs';
import { latestRevision } from '@/server/db/revisions';
import { record } from '@/server/db/records';
import { inTenant, type Tx } from '@/server/db/pool';
import { publicUrlOf } from '@/server/env';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { houseOf } from '@/server/services/house/house-style';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { addHandOut } from '@/server/services/publishing/publish-card';

/** A further live hand-out of a published card, with a placement and a code of its own. Errors: NOT_FOUND, CARD_NOT_PUBLISHED, INPUT. */
export async function makeHandOut(
  actor: Actor,
  input: { cardId: string; placement: string; channel?: 'code' | 'tag'; frozen?: boolean },
  clock: Clock,
): Promise<{ id: string; code: string }> {
  authorise(actor, 'hand-out.make');
  const placement = cleanLine(input.placement).text.slice(0, LIMITS.placement);
  if (!placement) throw new Refusal({ code: 'INPUT', field: 'placement' });
  return inTenant(actor.organisationId, async (tx) => {
    const row = await card(tx, input.cardId);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'hand-out.make', row.record_id);
    const revision = await latestRevision(tx, input.cardId);
    if (row.state !== 'published' || !revision) throw new Refusal({ code: 'CARD_NOT_PUBLISHED' });
    const { channel = 'code', frozen = false } = input;
    const { composition } = revision;
    if (frozen) await refuseUnticked(tx, actor, row, composition, channel);
    const made = await addHandOut(tx, actor.organisationId, input.cardId, placement, new Date(clock.now()), (code) => ({
      channel,
      frozen: frozen ? frozenContent(composition, channel, { organisation: actor.organisationId, code }) : null,
      revision: frozen ? (revision?.number ?? null) : null,
    }));
    await recordAudit(tx, actor, 'hand-out.made', { kind: 'hand-out', id: made.id }, clock);
    return made;
  });
}

/**
 * A copy that leaves can never be taken back: it is held against today's ticks, so that a value that was unticked or cut since the
 * card was published does not go out in it. Error: PROOF_FAILED.
 */
async function refuseUnticked(
  tx: Tx,
  actor: Actor,
  row: CardRow,
  composition: Composition,
  channel: 'code' | 'tag',
): Promise<void> {
  const person = await record(tx, row.record_id);
  if (!person) throw new Refusal({ code: 'NOT_FOUND' });
  const body = person.body;
  const withheld = withheldFrom(body, reconcile(row.lines, body), channel, actor.organisation.country);
  const contact = squeeze(writeFrozenContact(composition, channel).replace(/\r\n /g, ''));
  const leaked = withheld.filter((value) => contact.includes(squeeze(value)));
  const finding = { code: 'UNTICKED', still: leaked.length, of: withheld.length } as const;
  if (leaked.length > 0) throw new Refusal({ code: 'PROOF_FAILED', channel, finding });
}

/** Where a hand-out's code leads. */
const linkOf = (organisation: string, code: string): string => `${publicUrlOf(organisation)}/h/${code}`;

/**
 * The bytes that a frozen hand-out carries, base64: a code the contact, a tag the link first, since some phones read nothing
 * else, then the contact. Error: CONTENT_TOO_LARGE.
 */
function frozenContent(
  composition: Composition,
  channel: 'code' | 'tag',
  where: { organisation: string; code: string },
): string {
  const contact = writeFrozenContact(composition, channel);
  const bytes =
    channel === 'code' ? Buffer.from(contact) : Buffer.from(tagMemory(linkOf(where.organisation, where.code), contact));
  const room = channel === 'code' ? CODE_BYTES : Math.max(...TAG_ROOM);
  if (bytes.length > room) throw new Refusal({ code: 'CONTENT_TOO_LARGE', bytes: bytes.length, room });
  return bytes.toString('base64');
}

/** What the code of a hand-out holds: a link, or the frozen contact. */
const codeText = ({
  code,
  channel,
  frozen,
  organisation_id,
}: Pick<HandOutRow, 'code' | 'channel' | 'frozen' | 'organisation_id'>): string =>
  frozen !== null && channel === 'code'
    ? Buffer.from(frozen, 'base64').toString('utf8')
    : liveCodeText(linkOf(organisation_id, code));

/** Printed width of a code unless another is asked for, in millimetres: a business card's usual code. */
export const CODE_WIDTH_MM = 25;

/** A hand-out that the member may see, and whose card it is of. Errors: NOT_ALLOWED, NOT_FOUND. */
async function ownHandOut(actor: Actor, handOutId: string): Promise<HandOutRow & { record_id: string }> {
  authorise(actor, 'hand-out.read');
  return inTenant(actor.organisationId, async (tx) => {
    const row = await handOut(tx, handOutId);
    const owner = row && (await card(tx, row.card_id));
    if (!row || !owner) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'hand-out.read', owner.record_id);
    return { ...row, record_id: owner.record_id };
  });
}

/** The SVG of a hand-out's code, 25 mm wide with its quiet zone. Error: NOT_FOUND. */
export async function codeAsSvg(actor: Actor, handOutId: string): Promise<{ svg: string; fileName: string }> {
  const row = await ownHandOut(actor, handOutId);
  const house = await inTenant(actor.organisationId, (tx) => houseOf(tx, row));
  const svg = drawSymbol(symbolFor(codeText(row)), {
    title: `Code ${row.code}`,
    widthMm: CODE_WIDTH_MM,
    ...(house ? { colours: house.style.codes } : {}),
  });
  return { svg, fileName: `code-${row.code}` };
}

/** The PNG of a code, 16 pixels a module, from the same SVG. */
export async function codeAsPng(actor: Actor, handOutId: string): Promise<{ png: Buffer; fileName: string }> {
  const { svg, fileName } = await codeAsSvg(actor, handOutId);
  const side = Number(/viewBox="0 0 (\d+)/.exec(svg)![1]);
  // The SVG's millimetres become pixels by its density; nearest-neighbour scaling then keeps every module square.
  const png = await rasterise(svg, side * 16);
  return { png, fileName };
}

const rasterise = (svg: string, pixels: number): Promise<Buffer> =>
  sharp(Buffer.from(svg.replace(/ width="[^"]*mm" height="[^"]*mm"/, ` width="${pixels}" height="${pixels}"`)))
    .flatten({ background: '#fff' })
    .png()
    .toBuffer();

/**
 * The facts of a hand-out's code, and whether a reader that did not draw it reads it back: the PNG is scaled to several
 * sizes, since one scale proves nothing, and read by jsQR. Error: NOT_FOUND.
 */
export async function describeCode(actor: Actor, handOutId: string): Promise<ShownCode> {
  const row = await ownHandOut(actor, handOutId);
  const text = codeText(row);
  const symbol = symbolFor(text);
  const svg = drawSymbol(symbol, { title: row.code });
  const side = symbol.size + 2 * QUIET_ZONE;
  const scales = [3, 4, 6, 8];
  let read = 0;
  for (const scale of scales) {
    const { data, info } = await sharp(
      await rasterise(svg.replace('<svg ', '<svg width="1mm" height="1mm" '), side * scale),
    )
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    if (jsQR(new Uint8ClampedArray(data), info.width, info.height)?.data === text) read += 1;
  }
  return {
    text,
    version: symbol.version,
    modules: symbol.size,
    level: symbol.level,
    widthMm: CODE_WIDTH_MM,
    moduleMm: CODE_WIDTH_MM / side,
    readBack: { read, of: scales.length },
  };
}

/** The NDEF bytes of a frozen tag as they lie in its memory. Error: NOT_FOUND. */
export async function tagBytes(actor: Actor, handOutId: string): Promise<{ bytes: Buffer; fileName: string }> {
  const row = await ownHandOut(actor, handOutId);
  if (row.channel !== 'tag') throw new Refusal({ code: 'NOT_FOUND' });
  const bytes =
    row.frozen !== null
      ? Buffer.from(row.frozen, 'base64')
      : Buffer.from(tagMemory(linkOf(row.organisation_id, row.code), null));
  return { bytes, fileName: `tag-${row.code}` };
}
