import { linesIn, reconcile, saidIn, withheldFrom, CompositionSchema, filesOf, type Composition } from '@/core/card';
import { Refusal } from '@/core/errors';
import { dressed, HouseStyleSchema, withoutHouse, type HouseStyle } from '@/core/house';
import { LIMITS } from '@/core/limits';
import { fails, FIRST_LOOK, LOOK_PARTS, pairsInUse, type LayoutName, type Look } from '@/core/look';
import { renderPage } from '@/core/page';
import { provePage, type Proof } from '@/core/proof';
import { cleanLine, RecordSchema, writtenName } from '@/core/record';
import { gzipSync } from 'node:zlib';
import { cards, latestRevisions, type CardRow } from '@/server/db/cards';
import { touchAllCards } from '@/server/db/directory';
import { houseVersion, houseVersions, insertHouse, latestHouse } from '@/server/db/house';
import { inTenant, type Tx } from '@/server/db/pool';
import { recordsBy } from '@/server/db/records';
import { violatedUnique } from '@/server/db/failures';
import type { Clock } from '@/server/clock';
import type { Actor } from './actor';
import { writeDown } from './audit';
import { authorise } from './authorise';
import { blockFiles } from './block-files';

/** The house style that holds, with its version; null where the organisation has none. */
export async function houseOf(tx: Tx): Promise<{ number: number; style: HouseStyle } | null> {
  const row = await latestHouse(tx);
  return row ? { number: row.number, style: HouseStyleSchema.parse(row.style) } : null;
}

/** Within one transaction it stays the same, for thousands of cards that an import makes. */
const known = new WeakMap<Tx, ReturnType<typeof houseOf>>();
function houseIn(tx: Tx): ReturnType<typeof houseOf> {
  const house = known.get(tx) ?? houseOf(tx);
  known.set(tx, house);
  return house;
}

/** The look of a new card: it follows the house style, where there is one, in the layout that was chosen. */
export async function firstLook(tx: Tx, layout?: LayoutName): Promise<Look> {
  const house = await houseIn(tx);
  if (house && layout && !house.style.layouts.includes(layout)) throw new Refusal({ code: 'LAYOUT_NOT_ALLOWED' });
  const look = house?.style.look ?? FIRST_LOOK;
  const follows = LOOK_PARTS.filter((part) => house && !(part === 'layout' && layout && layout !== look.layout));
  return { ...look, layout: layout ?? look.layout, follows, overrides: [], hides: [], lines: {} };
}

export type HouseVersion = { number: number; note: string; savedAt: string; who: string | null };

/** The house style with its versions. Error: NOT_ALLOWED. */
export async function readHouse(
  actor: Actor,
): Promise<{ number: number; style: HouseStyle | null; versions: HouseVersion[] }> {
  authorise(actor, 'house.read');
  return inTenant(actor.organisationId, async (tx) => {
    const now = await houseOf(tx);
    const versions = await houseVersions(tx);
    return {
      number: now?.number ?? 0,
      style: now?.style ?? null,
      versions: versions.map(({ number, note, saved_at, who }) => ({
        number,
        note,
        savedAt: saved_at.toISOString(),
        who,
      })),
    };
  });
}

/** The same for those who may change it. Error: NOT_ALLOWED. */
export async function houseToEdit(actor: Actor): ReturnType<typeof readHouse> {
  authorise(actor, 'house.write');
  return readHouse(actor);
}

/** An earlier version of the house style, to look at or to save again. Error: NOT_FOUND. */
export async function readHouseVersion(actor: Actor, number: number): Promise<{ style: HouseStyle }> {
  authorise(actor, 'house.write');
  return inTenant(actor.organisationId, async (tx) => {
    const row = await houseVersion(tx, number);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    return { style: HouseStyleSchema.parse(row.style) };
  });
}

/** Files that a house style names and the organisation does not have. Error: FILE_GONE. */
async function refuseMissing(tx: Tx, { logos, blocks, look }: HouseStyle): Promise<void> {
  const wanted = filesOf({ blocks, opens: { first: 'page' }, look });
  for (const logo of [logos.onLight, logos.onDark]) if (logo) wanted.add(logo.hash);
  const found = await blockFiles(tx, wanted);
  if ([...wanted].some((hash) => !found.has(hash))) throw new Refusal({ code: 'FILE_GONE' });
}

/**
 * Saves a further version over the one that its editor saw. Cards show it from then on, by reference: no card is written, every
 * process sees that its copies are old. Errors: NOT_ALLOWED, HOUSE_CHANGED, FILE_GONE, CONTRAST_FAILS.
 */
export async function saveHouse(
  actor: Actor,
  input: { baseNumber: number; style: HouseStyle; note: string; overrideContrast?: boolean },
  clock: Clock,
): Promise<{ number: number; cards: number }> {
  authorise(actor, 'house.write');
  try {
    return await inTenant(actor.organisationId, async (tx) => {
      const now = await houseOf(tx);
      if ((now?.number ?? 0) !== input.baseNumber) throw new Refusal({ code: 'HOUSE_CHANGED' });
      await refuseMissing(tx, input.style);
      // It goes out on every card at once: the same rule as for publishing one.
      const failing = pairsInUse(input.style.look).flatMap(({ pair }) => (fails(pair) ? pair : []));
      const [first] = failing.sort((a, b) => a.ratio / a.needs - b.ratio / b.needs);
      if (first && !input.overrideContrast)
        throw new Refusal({ code: 'CONTRAST_FAILS', worst: first.ratio, needs: first.needs, count: failing.length });
      const number = input.baseNumber + 1;
      await insertHouse(tx, {
        organisation_id: actor.organisationId,
        number,
        style: input.style,
        note: cleanLine(input.note).text.slice(0, LIMITS.revisionNote),
        saved_by: actor.userId,
        saved_at: new Date(clock.now()),
      });
      const shown = await touchAllCards(tx, actor.organisationId);
      await writeDown(tx, actor, 'house.saved', { kind: 'house style', id: actor.organisationId }, clock, {
        number,
        cards: shown,
      });
      if (first)
        await writeDown(tx, actor, 'contrast.overridden', { kind: 'house style', id: actor.organisationId }, clock, {
          number,
          count: failing.length,
        });
      return { number, cards: shown };
    });
  } catch (error) {
    // Two who save at the same moment: the second one is told as if the first had been earlier.
    throw violatedUnique(error)?.startsWith('house_styles') ? new Refusal({ code: 'HOUSE_CHANGED' }) : error;
  }
}

/** So long proofs are made for a preview; what is left is told, not guessed. */
const PREVIEW_MS = 2_500;

/** What saving a house style would do: cards that are out, those that would show something else, and proofs that would change. */
export type HousePreview = {
  cards: number;
  changed: number;
  proved: number;
  /** Cards whose page would fail its proof and passes today, by finding, the first of them named; and those the other way round. */
  fails: { finding: string; count: number; cards: { cardId: string; person: string }[] }[];
  mends: number;
};

/** Of a finding so many cards are named; the rest is a number. */
const MOST_NAMED = 12;

/** Holds every published card against a house style before it is saved. Error: NOT_ALLOWED. */
export async function previewHouse(actor: Actor, style: HouseStyle, clock: Clock): Promise<HousePreview> {
  authorise(actor, 'house.write');
  return inTenant(actor.organisationId, async (tx) => {
    const today = (await houseOf(tx))?.style ?? null;
    const out = (await cards(tx)).filter(({ state }) => state === 'published');
    const revisions = await latestRevisions(tx);
    const people = await recordsBy(tx, [...new Set(out.map(({ record_id }) => record_id))]);
    const begun = performance.now();
    const told: HousePreview = { cards: out.length, changed: 0, proved: 0, fails: [], mends: 0 };
    for (const row of out) {
      const kept = revisions.get(row.id);
      const person = people.get(row.record_id);
      if (!kept || !person) continue;
      const composition = CompositionSchema.parse(kept.composition);
      const [was, is] = [dressed(composition, today), dressed(composition, style)];
      if (JSON.stringify(was) !== JSON.stringify(is)) told.changed += 1;
      if (performance.now() - begun > PREVIEW_MS) continue;
      told.proved += 1;
      const withheld = withheldOf(row, RecordSchema.parse(person.body), actor.organisation.country);
      const [before, after] = [
        pageProof(was, withoutHouse(withheld, was.look, today, 'page'), clock.now()),
        pageProof(is, withoutHouse(withheld, is.look, style, 'page'), clock.now()),
      ];
      if (before.passed && !after.passed) {
        const { finding } = after.checks[0]!;
        const same = told.fails.find((each) => each.finding === finding) ?? { finding, count: 0, cards: [] };
        if (same.count === 0) told.fails.push(same);
        same.count += 1;
        if (same.cards.length < MOST_NAMED) same.cards.push({ cardId: row.id, person: writtenName(composition.name) });
      }
      if (!before.passed && after.passed) told.mends += 1;
    }
    return told;
  });
}

const withheldOf = (row: CardRow, body: ReturnType<typeof RecordSchema.parse>, country: string): string[] =>
  withheldFrom(body, linesIn(reconcile(row.lines, body), body, row.words, row.language ?? 'en'), 'page', country);

function pageProof(composition: Composition, withheld: string[], now: number): Proof {
  const language = composition.language ?? 'en';
  const html = renderPage(composition, {
    contactFile: '/c/proof.vcf',
    taps: '/c/proof/tap',
    photo: '/c/proof/photo',
    logo: '/c/proof/logo',
    canonical: 'https://cards.invalid/c/proof',
    fileAt: (hash) => `/c/proof/file-${hash}`,
    language,
    now,
  });
  return provePage(html, gzipSync(html, { level: 6 }).length, saidIn(composition, language), withheld);
}
