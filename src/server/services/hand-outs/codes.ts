import { mayReach, reachOf } from '@/core/access';
import { nearOf } from '@/core/code';
import { Refusal } from '@/core/errors';
import { houseCodeLogo, houseCodeStyle } from '@/core/house';
import { codeSvg, drawCode, sideOf, type CodeStyle } from '@/core/qr';
import { writtenName } from '@/core/record';
import type { ShownCode } from '@/core/shown';
import { compute } from '@/server/compute';
import { cardsOfRecord } from '@/server/db/cards/cards';
import { beginTest, codesOfCards, setDrawn, takeOut, type HandOutRow } from '@/server/db/hand-outs/hand-outs';
import { touchCard } from '@/server/db/cards/directory';
import { occasion } from '@/server/db/hand-outs/placements';
import { record } from '@/server/db/cards/records';
import { inTenant, type Tx } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { houseOf } from '@/server/services/house/house-style';
import { drawnOf, outlinesOf, refuseLocked, styled, symbolOf, textOf } from './drawing';
import { linkOf, ownCode, ownHandOut, plainName } from './own';

/** Printed width of a code unless another is asked for, in millimetres: a business card's usual code. */
export const CODE_WIDTH_MM = 25;

/** So long a test waits for its scan, in milliseconds. */
const TEST_MS = 120_000;

const mayOverride = (actor: Actor): boolean => reachOf(actor.role, 'look.override') === 'all';

/** Whether a code holds what cannot be changed and may be printed by now. */
const isClosed = ({ frozen, taken_at }: HandOutRow): boolean => frozen !== null && taken_at !== null;

/** Everything that the screen of a code shows. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function openCode(actor: Actor, id: string, clock: Clock): Promise<ShownCode> {
  authorise(actor, 'hand-out.read');
  return inTenant(actor, async (tx) => {
    const { row, owner } = await ownCode(tx, actor, id, 'hand-out.read');
    const held = await houseOf(tx, owner);
    const house = held?.mark.house ? held.style : null;
    const drawn = await drawnOf(tx, row, house);
    const text = textOf(row);
    const { size } = symbolOf(text, drawn);
    const at = row.occasion_id ? await occasion(tx, row.occasion_id) : undefined;
    return {
      ...{ id, code: row.code, placement: row.placement, occasion: at?.name ?? null, cardId: row.card_id },
      ...{
        text,
        link: linkOf(row),
        live: row.frozen === null,
        near: nearOf(text) ?? (row.frozen === null ? nearOf(linkOf(row)) : null),
      },
      content:
        row.content ?? (row.frozen === null ? { what: 'card' } : { what: 'contact', form: 'vCard 3.0', link: false }),
      ...{
        style: drawn.style,
        version: drawn.version,
        level: drawn.level,
        mask: drawn.mask,
        modules: size,
        words: drawn.words,
      },
      widthMm: CODE_WIDTH_MM,
      moduleMm: CODE_WIDTH_MM / sideOf(size, drawn.style),
      proof: row.proof,
      testedAt: row.tested_at?.toISOString() ?? null,
      takenAt: isClosed(row) ? row.taken_at!.toISOString() : null,
      waits: row.testing_until !== null && row.testing_until.getTime() > clock.now(),
      locked: mayOverride(actor) ? null : (house?.locks.codes ?? null),
      house: house && { style: houseCodeStyle(house.codes), logo: houseCodeLogo(house) },
      mayStyle: mayReach(actor, 'hand-out.make', owner.record_id),
    };
  });
}

/**
 * Draws a code in another style; with `all` every live code of the same person's cards as well. What is frozen stays as it is, and is named.
 * Errors: NOT_ALLOWED, NOT_FOUND, LOCKED, HAND_OUT_TAKEN, those of {@link styled}.
 */
export async function restyle(
  actor: Actor,
  id: string,
  { style, all }: { style: CodeStyle; all: boolean },
  clock: Clock,
): Promise<{ restyled: number; frozen: string[] }> {
  authorise(actor, 'hand-out.make');
  const rows = await inTenant(actor, async (tx) => {
    const { row, owner } = await ownCode(tx, actor, id, 'hand-out.make');
    refuseLocked((await houseOf(tx, owner))?.style ?? null, mayOverride(actor));
    if (isClosed(row)) throw new Refusal({ code: 'HAND_OUT_TAKEN' });
    if (!all) return [row];
    const cards = await cardsOfRecord(tx, owner.record_id);
    const codes = await codesOfCards(
      tx,
      cards.map((each) => each.id),
    );
    return [row, ...codes.filter((each) => each.id !== id)];
  });
  const open = rows.filter((row) => row.id === id || row.frozen === null);
  for (const row of open) {
    // Words belong to one code.
    const own = row.id === id ? style : { ...style, words: row.drawn?.style.words ?? '' };
    const made = await styled(row, own);
    await inTenant(actor, async (tx) => {
      if (!(await setDrawn(tx, row.id, made.drawn, made.proof))) throw new Refusal({ code: 'HAND_OUT_TAKEN' });
      await recordAudit(tx, actor, 'hand-out.styled', { kind: 'hand-out', id: row.id }, clock);
    });
  }
  return { restyled: open.length, frozen: rows.filter((row) => !open.includes(row)).map(({ placement }) => placement) };
}

/** Outlines of words below a code, for its drawing on screen. */
export async function wordsOf(actor: Actor, text: string) {
  authorise(actor, 'hand-out.read');
  return outlinesOf(text, actor.organisationId);
}

export type CodeFileFormat = 'svg' | 'png' | 'jpg' | 'pdf';
export type CodeFile = { bytes: Buffer; fileName: string; type: string };

const TYPES: Record<CodeFileFormat, string> = {
  svg: 'image/svg+xml',
  png: 'image/png',
  jpg: 'image/jpeg',
  pdf: 'application/pdf',
};

async function nameOf(tx: Tx, row: HandOutRow, recordId: string): Promise<string> {
  const person = await record(tx, recordId);
  const smallest = row.proof?.smallestMm;
  return [
    person && plainName(writtenName(person.body.name)),
    plainName(row.placement),
    smallest ? `from-${smallest}mm` : row.code,
  ]
    .filter(Boolean)
    .join('-');
}

/**
 * A code as a file, its margin in; from then on a frozen one is not drawn otherwise. `dpi` of pictures, `spot` names a colour of its own for the ink in a PDF. Errors: NOT_ALLOWED, NOT_FOUND, TOO_BUSY,
 * TOO_LABORIOUS.
 */
export async function codeAsFile(
  actor: Actor,
  id: string,
  { format, widthMm, dpi, spot }: { format: CodeFileFormat; widthMm: number; dpi: number; spot: string | null },
  clock: Clock,
): Promise<CodeFile> {
  authorise(actor, 'hand-out.read');
  const { row, drawn, name, title } = await inTenant(actor, async (tx) => {
    await takeOut(tx, id, new Date(clock.now()));
    const { row, owner } = await ownCode(tx, actor, id, 'hand-out.read');
    const house = (await houseOf(tx, owner))?.style ?? null;
    const name = await nameOf(tx, row, owner.record_id);
    return { row, drawn: await drawnOf(tx, row, house), name, title: `Code ${row.code}, ${row.placement}` };
  });
  const drawing = drawCode(symbolOf(textOf(row), drawn), drawn.style, drawn.words);
  const bytes =
    format === 'svg'
      ? Buffer.from(codeSvg(drawing, { title, widthMm }))
      : await compute(
          'code file',
          { drawing, widthMm, dpi, title, format, spot: spot ? { name: spot, ink: drawn.style.ink } : null },
          { of: actor.organisationId },
        );
  return { bytes, fileName: `${name}.${format}`, type: TYPES[format] };
}

/** Waits for a scan of a live code, or a tap on a tag, from now on: the next one is its test, which is not counted. Errors: NOT_ALLOWED, NOT_FOUND, INPUT of a frozen one. */
export async function testCode(actor: Actor, id: string, clock: Clock): Promise<void> {
  authorise(actor, 'hand-out.make');
  await inTenant(actor, async (tx) => {
    const { row } = await ownHandOut(tx, actor, id, 'hand-out.make');
    if (row.channel !== 'code' && row.channel !== 'tag') throw new Refusal({ code: 'NOT_FOUND' });
    // What is frozen tells nobody that it was read; a tag has a link first that does.
    if (row.frozen !== null && row.channel === 'code') throw new Refusal({ code: 'INPUT', field: 'id' });
    await beginTest(tx, id, new Date(clock.now() + TEST_MS));
    // Whoever keeps the card ready learns that a test is waited for.
    await touchCard(tx, row.card_id, actor.organisationId);
  });
}
