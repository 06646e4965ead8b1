import { filesOf } from '@/core/card';
import { Refusal, type Problem } from '@/core/errors';
import { withOffice, type HouseStyle, type Office } from '@/core/house';
import { LIMITS } from '@/core/limits';
import { FIRST_LOOK, LOOK_PARTS, type LayoutName, type Look } from '@/core/look';
import { cleanLine } from '@/core/record';
import { faultOfStrip } from '@/core/signature';
import { publishedCards } from '@/server/db/cards/cards';
import { touchAllCards } from '@/server/db/cards/directory';
import { houseVersion, houseVersions, insertHouse, latestHouse } from '@/server/db/house/house';
import { officesOfRecords, officeVersion } from '@/server/db/house/offices';
import { supersedeJobs } from '@/server/db/jobs/jobs';
import { inTenant, type Tx } from '@/server/db/pool';
import { violatedUnique } from '@/server/db/jobs/failures';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { blockFiles } from '@/server/services/media/block-files';
import { noteHouse } from '@/server/services/wild/note-copy';
import { judgeContrast, overrideOrRefuse } from './contrast';
import { askForJob } from '@/server/services/jobs/jobs';

export type House = { number: number; style: HouseStyle } | null;

/** The house style that holds, with its version; null where the organisation has none. */
export async function houseOfOrganisation(tx: Tx): Promise<House> {
  const row = await latestHouse(tx);
  return row ? { number: row.number, style: row.style } : null;
}

/** Versions by which a card's house style can be told again; `seal` names them in one text. */
export type HouseMark = { house: number; office?: { id: string; number: number } };
export type HouseOfCard = { style: HouseStyle; mark: HouseMark; seal: string } | null;

const dressed = (house: House, office: Pick<Office, 'id' | 'number' | 'lines'> | undefined): HouseOfCard => {
  if (!house && !office) return null;
  const number = house?.number ?? 0;
  return {
    style: office ? withOffice(house?.style ?? null, office.lines) : house!.style,
    mark: { house: number, ...(office ? { office: { id: office.id, number: office.number } } : {}) },
    seal: office ? `${number}+${office.id}.${office.number}` : String(number),
  };
};

/** The house style that holds for the cards of a record: that of its organisation, with the lines of the office that its person belongs to. */
export const houseOf = async (tx: Tx, { record_id }: { record_id: string }): Promise<HouseOfCard> =>
  (await housesOf(tx, [record_id]))(record_id);

/** The same of several records at once. */
export async function housesOf(tx: Tx, recordIds: string[]): Promise<(recordId: string) => HouseOfCard> {
  const house = await houseOfOrganisation(tx);
  const offices = await officesOfRecords(tx, recordIds);
  return (recordId) => dressed(house, offices.get(recordId));
}

/** The same as it was in these versions; null where there was none, or its office is gone. */
export async function houseAt(tx: Tx, { house, office }: HouseMark): Promise<HouseStyle | null> {
  const style = house === 0 ? null : ((await houseVersion(tx, house)) ?? null);
  const then = office && (await officeVersion(tx, office.id, office.number));
  return dressed(style, then && office && { ...office, ...then })?.style ?? null;
}

/** Within one transaction it stays the same, for thousands of cards that an import makes. */
const known = new WeakMap<Tx, Promise<House>>();
function houseIn(tx: Tx): Promise<House> {
  const house = known.get(tx) ?? houseOfOrganisation(tx);
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
  return inTenant(actor, async (tx) => {
    const now = await houseOfOrganisation(tx);
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
  return inTenant(actor, async (tx) => {
    const row = await houseVersion(tx, number);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    return { style: row.style };
  });
}

/** Notices that cannot show. Errors: STRIP_UNFINISHED, STRIP_ENDS_BEFORE, LINK_UNREADABLE. */
function refuseFaulty({ signature }: HouseStyle): void {
  for (const strip of signature?.strips ?? []) {
    const fault = faultOfStrip(strip);
    if (fault === 'unfinished') throw new Refusal({ code: 'STRIP_UNFINISHED' });
    if (fault === 'backwards') throw new Refusal({ code: 'STRIP_ENDS_BEFORE', text: strip.text });
    if (fault === 'link') throw new Refusal({ code: 'LINK_UNREADABLE' });
  }
}

/** Files that a house style names and the organisation does not have. Error: FILE_GONE. */
async function refuseMissing(tx: Tx, { logos, blocks, look, signature }: HouseStyle): Promise<void> {
  const wanted = filesOf({ blocks, opens: { first: 'page' }, look });
  for (const logo of [logos.onLight, logos.onDark]) if (logo) wanted.add(logo.hash);
  for (const { picture } of signature?.strips ?? []) if (picture) wanted.add(picture.hash);
  const found = await blockFiles(tx, wanted);
  if ([...wanted].some((hash) => !found.has(hash))) throw new Refusal({ code: 'FILE_GONE' });
}

/**
 * What stands against a house style, the same for a preview and for saving: null, or that colours do not read; it goes out on every
 * card at once, so the rule is the one for publishing a card. Errors: FILE_GONE, and those of {@link refuseFaulty}.
 */
export async function judgeHouse(tx: Tx, style: HouseStyle): Promise<Problem | null> {
  refuseFaulty(style);
  await refuseMissing(tx, style);
  return judgeContrast(style.look);
}

/**
 * Saves a further version over the one that its editor saw. Cards show it from then on, by reference: no card is written, every
 * process sees that its copies are old. `job` proves them. Errors: NOT_ALLOWED, HOUSE_CHANGED, FILE_GONE, CONTRAST_FAILS, TOO_MANY_JOBS.
 */
export async function saveHouse(
  actor: Actor,
  input: { baseNumber: number; style: HouseStyle; note: string; overrideContrast?: boolean },
  clock: Clock,
): Promise<{ number: number; cards: number; job: string }> {
  authorise(actor, 'house.write');
  try {
    return await inTenant(actor, async (tx) => {
      const now = await houseOfOrganisation(tx);
      if ((now?.number ?? 0) !== input.baseNumber) throw new Refusal({ code: 'HOUSE_CHANGED' });
      refuseFaulty(input.style);
      await refuseMissing(tx, input.style);
      const subject = { kind: 'house style', id: actor.organisationId } as const;
      await overrideOrRefuse(tx, actor, subject, input.style.look, input.overrideContrast ?? false, clock);
      const number = input.baseNumber + 1;
      const at = new Date(clock.now());
      await insertHouse(tx, {
        organisation_id: actor.organisationId,
        number,
        style: input.style,
        note: cleanLine(input.note).text.slice(0, LIMITS.revisionNote),
        saved_by: actor.userId,
        saved_at: at,
      });
      await noteHouse(tx, actor.organisationId, input.style, actor.organisation.country);
      const shown = await touchAllCards(tx, actor.organisationId);
      // A changed house style is a change of every card that shows it: their proofs are made anew, and those of an earlier version no more.
      await supersedeJobs(tx, 'prove-cards', at);
      const total = (await publishedCards(tx)).length;
      const job = await askForJob(tx, actor, { task: 'prove-cards', input: { house: number }, total }, clock);
      await recordAudit(tx, actor, 'house.saved', subject, clock, {
        number,
        cards: shown,
      });
      return { number, cards: shown, job };
    });
  } catch (error) {
    // Two who save at the same moment: the second one is told as if the first had been earlier.
    throw violatedUnique(error)?.startsWith('house_styles') ? new Refusal({ code: 'HOUSE_CHANGED' }) : error;
  }
}
