import type { PackKind } from '@/core/pack';
import { FIRST_PIECE } from '@/core/print';
import { proveContactFile, type Check } from '@/core/proof';
import { codeSvg, drawCode } from '@/core/qr';
import { writeContactFile, type VcardVersion } from '@/core/vcard';
import { PACK } from '@/core/words';
import type { Clock } from '@/server/clock';
import { compute } from '@/server/compute';
import { card } from '@/server/db/cards/cards';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { CODE_WIDTH_MM } from '@/server/services/hand-outs/codes';
import { drawnOf, styled, symbolOf, textOf } from '@/server/services/hand-outs/drawing';
import { liveHandOut } from '@/server/services/hand-outs/export-parts';
import { makeSignature, openSignature, signatureTaken } from '@/server/services/hand-outs/signature';
import { houseOf } from '@/server/services/house/house-style';
import { contactContext } from '@/server/services/publishing/contact-context';
import type { PublishedCard } from '@/server/services/publishing/load-published';
import { withheldOf } from '@/server/services/publishing/prove-card';
import { printed } from './print';
import { pieceAt } from './together';

/** Files of somebody’s, of one kind: what the name of each ends in, the checks that it was held against, and the link in them. */
export type MadeKind = {
  files: { ending: string; bytes: Buffer; compress: boolean }[];
  checks: Check[];
  link: string | null;
};
export type PackFor = { actor: Actor; served: PublishedCard; version: VcardVersion; clock: Clock };

/** Pictures of codes for screens, in dots an inch. */
const DPI = 600;

async function contactFile({ served, version }: PackFor): Promise<MadeKind> {
  const { cardId, organisationId, address, publishedAt, inFile, composition } = served;
  const context = contactContext({ cardId, organisationId, address, revised: publishedAt, ...inFile }, version);
  const file = writeContactFile(composition, context);
  const { checks } = proveContactFile(file, composition, await withheldOf(served, 'file'), context);
  return { files: [{ ending: '.vcf', bytes: Buffer.from(file), compress: true }], checks, link: null };
}

/** The living code of the card, made where it has none; read back, in a style that was tried. */
async function code({ served, clock }: PackFor): Promise<MadeKind> {
  const { organisationId, cardId } = served;
  const { row, style } = await inTenant(organisationId, async (tx) => {
    const row = await liveHandOut(tx, served, 'code', clock);
    const owner = await card(tx, cardId);
    const house = owner ? ((await houseOf(tx, owner))?.style ?? null) : null;
    return { row, style: (await drawnOf(tx, row, house)).style };
  });
  const { drawn, proof } = await styled(row, style);
  const drawing = drawCode(symbolOf(textOf(row), drawn), drawn.style, drawn.words);
  const title = `Code ${row.code}, ${row.placement}`;
  const order = { drawing, widthMm: CODE_WIDTH_MM, dpi: DPI, title, spot: null };
  const of = { of: organisationId };
  const [png, pdf] = [
    await compute('code file', { ...order, format: 'png' }, of),
    await compute('code file', { ...order, format: 'pdf' }, of),
  ];
  const svg = Buffer.from(codeSvg(drawing, { title, widthMm: CODE_WIDTH_MM }));
  const says = PACK.read(proof.read, proof.of, proof.smallestMm);
  const read = {
    name: 'code',
    passed: proof.faults.length === 0,
    finding: { code: 'WORDED', sentence: says } as const,
  };
  return {
    files: [
      { ending: '-code.svg', bytes: svg, compress: true },
      { ending: '-code.png', bytes: png, compress: false },
      { ending: '-code.pdf', bytes: pdf, compress: false },
    ],
    ...{ checks: [read], link: textOf(row) },
  };
}

async function signature({ actor, served, clock }: PackFor): Promise<MadeKind> {
  const { id } = await makeSignature(actor, served.cardId, clock);
  const { variants, link } = await openSignature(actor, id, clock);
  const { html, text } = variants.message.signature;
  await signatureTaken(actor, id, clock);
  return {
    files: [
      { ending: '-signature.html', bytes: Buffer.from(html), compress: true },
      { ending: '-signature.txt', bytes: Buffer.from(text), compress: true },
    ],
    ...{ checks: variants.message.proof.checks, link },
  };
}

async function print({ actor, served, clock }: PackFor): Promise<MadeKind> {
  const row = await pieceAt(actor, served.cardId, PACK.placement, FIRST_PIECE, clock);
  const { pdf, proof } = await printed({ row, served, piece: FIRST_PIECE });
  return { files: [{ ending: '-print.pdf', bytes: pdf, compress: false }], checks: proof.checks, link: textOf(row) };
}

/** Makes files of one kind for somebody, proven. Errors: CARD_NOT_PUBLISHED of a signature that rests, those of what makes them. */
export const makeKind: Record<PackKind, (of: PackFor) => Promise<MadeKind>> = {
  'contact file': contactFile,
  code,
  signature,
  print,
};
