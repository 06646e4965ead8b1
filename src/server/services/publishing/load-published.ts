import { pictureOn, type Composition } from '@/core/card';
import { COMPANY_DEFAULTS, type CompanyDefaults } from '@/core/company';
import { Refusal } from '@/core/errors';
import { applyHouseStyle, HOUSE_LOGO, houseLogo, logoGround, type HouseStyle } from '@/core/house';
import { nightLook } from '@/core/look';
import type { LegalLinks } from '@/core/page';
import { writtenName } from '@/core/record';
import { belowIn, FIRST_SIGNATURE, MAIL_GROUNDS, type SignatureOptions } from '@/core/signature';
import { organisation } from '@/server/db/accounts/accounts';
import { card } from '@/server/db/cards/cards';
import { handOut } from '@/server/db/hand-outs/hand-outs';
import { latestRevision } from '@/server/db/cards/revisions';
import { byAddress, byCode, currentAddress, directoryVersion } from '@/server/db/cards/directory';
import { inTenant, outsideTenants, type Tx } from '@/server/db/pool';
import { planOf } from '@/server/db/cards/plans';
import { picture, picturesBy, type PictureRow } from '@/server/db/media/pictures';
import { systemClock, type Clock } from '@/server/clock';
import { files } from '@/server/files';
import {
  publishedStrips,
  signedPicture,
  signedPictures,
  type PublishedSignature,
} from '@/server/services/hand-outs/signature-parts';
import { defaultsOf } from '@/server/services/organisation/company-defaults';
import { houseOf } from '@/server/services/house/house-style';
import { filesOfComposition, type BlockFile } from '@/server/services/media/block-files';
import { unlessUnavailable } from '@/server/services/media/pictures';

/** All that an answer to a recipient is made from. `version` counts up whenever one of these changes. */
export type PublishedCard = {
  cardId: string;
  organisationId: string;
  version: number;
  handOutId: string | null;
  state: 'published' | 'resting' | 'retired';
  /** Null for a preview, which has no address of its own. */
  address: string | null;
  timeZone: string;
  composition: Composition;
  revision: number;
  publishedAt: string;
  /** Hash of each picture that the page shows, and its bytes. */
  photo: ShownPicture | null;
  logo: ShownPicture | null;
  /** What the contact file carries, which may be another picture than the page's: bytes at its size. */
  inFile: { photo: Buffer | null; logo: Buffer | null };
  /** The house's logo for the band's ground and for the page by night, where it has another one for them. */
  logoOnBand: ShownPicture | null;
  logoByNight: ShownPicture | null;
  /** Whether its logo is the house's and not its own. */
  isHouseLogo: boolean;
  /** The files that its blocks show, by the hash that they name them by. */
  files: Map<string, BlockFile>;
  /** Where its hand-out was given out, for texts that say so; null of the short address. */
  placement: string | null;
  /** What links of its page carry for its holder's own web statistics, as its hand-out says. */
  parameters: string;
  /** What its hand-out shows where that is a signature. */
  signature: PublishedSignature | null;
  /** Until when the next scan of its hand-out is a test and no view (milliseconds, UTC); 0 where none is waited for. */
  testUntil: number;
  /** When it ends by itself (milliseconds, UTC), if it does. */
  endsAt: number | null;
  /** What is said while the card rests or after it was retired, and the address of a card to see instead. */
  notice: string;
  /** Ids of the lines that the house style adds. */
  houseLines: string[];
  /** What its organisation links to at the foot of each page. */
  legal: LegalLinks;
  instead: { address: string; name: string } | null;
  /** The country by which numbers are read (ISO 3166-1 alpha-2), and how what a recipient tells is kept. */
  country: string;
  leads: CompanyDefaults['leads'];
  /** The file store was away: what lies there is missing. */
  incomplete: boolean;
};

/** What has no address of its own, is no hand-out and is not counted: a draft that is looked at, and what is passed on of somebody else. */
export const UNLISTED = {
  ...{ handOutId: null, testUntil: 0, address: null, placement: null, signature: null, endsAt: null, instead: null },
  parameters: '',
  country: 'GB',
  leads: COMPANY_DEFAULTS.leads,
  ...{ state: 'published' as const, revision: 0, notice: '', houseLines: [], incomplete: false },
};

/**
 * `hash` is that of the picture as the page shows it, `whole` names it as it was given; no bytes where the store was away. `avif` and
 * `broad` name its lighter forms in the store, where they were made by then.
 */
export type ShownPicture = {
  hash: string;
  whole: string;
  page: Buffer | null;
  avif: string | null;
  broad: string | null;
};
const shownPicture = (row: PictureRow, page: Buffer | null): ShownPicture => ({
  ...{ hash: row.page_hash, whole: row.hash, page },
  ...{ avif: row.page_avif, broad: row.broad_avif },
});

/** The bytes of a picture as the page shows it. Error: STORE_UNAVAILABLE. */
export function pageBytes({ page }: ShownPicture): Buffer {
  if (!page) throw new Refusal({ code: 'STORE_UNAVAILABLE' });
  return page;
}

/** What a public address or a hand-out code leads to; null where nothing was ever published. Errors: CARD_DELETED, CODE_SPARE. */
export async function loadPublished(
  key: { address: string } | { code: string },
  clock: Clock = systemClock,
): Promise<PublishedCard | null> {
  const entry = await outsideTenants((db) => ('address' in key ? byAddress(db, key.address) : byCode(db, key.code)));
  if (!entry) return null;
  if (entry.card_id === null) throw new Refusal({ code: 'CODE_SPARE' });
  const { card_id: cardId } = entry;
  const now = clock.now();
  const found = await inTenant(entry.organisation_id, async (tx) => {
    const row = await card(tx, cardId);
    const revision = await latestRevision(tx, cardId);
    const owner = await organisation(tx, entry.organisation_id);
    // What leads somewhere once did: what is not there any more is deleted.
    if (!row || owner?.deleted_at) throw new Refusal({ code: 'CARD_DELETED' });
    const address = await currentAddress(tx, cardId);
    if (!revision || !owner || !address || row.state === 'draft') return null;
    const house = await houseOf(tx, row);
    const composition = applyHouseStyle(revision.composition, house?.style ?? null);
    const plan = await planOf(tx, cardId);
    // An end takes effect at its instant, before the row is written.
    const ended = plan?.ends_at && plan.ends_with && plan.ends_at.getTime() <= now && row.state === 'published';
    const ofCard = ended ? plan.ends_with! : row.state;
    const named = await namedPictures(tx, composition, house?.style ?? null);
    const given = entry.hand_out_id ? await handOut(tx, entry.hand_out_id) : undefined;
    // A hand-out may rest while its card does not.
    const rests = ofCard === 'published' && given !== undefined && given.state !== 'out';
    const state = rests ? (given.state as 'resting' | 'retired') : ofCard;
    const signature =
      given?.channel === 'signature'
        ? await signatureParts(tx, composition, house?.style ?? null, {
            options: given.signature,
            timeZone: owner.time_zone,
          })
        : null;
    const published = {
      cardId,
      organisationId: entry.organisation_id,
      version: entry.version,
      handOutId: entry.hand_out_id,
      state,
      address,
      timeZone: owner.time_zone,
      composition,
      revision: revision.number,
      publishedAt: revision.published_at.toISOString(),
      files: await filesOfComposition(tx, composition, signature),
      signature,
      placement: given?.placement ?? null,
      parameters: given?.parameters ?? '',
      testUntil: given?.testing_until?.getTime() ?? 0,
      endsAt: plan?.ends_at && !ended ? plan.ends_at.getTime() : null,
      notice: (rests ? given.notice : row.notice) || (state === 'published' ? '' : defaultsOf(owner).texts[state]),
      houseLines: house?.style.lines.map(({ id }) => id) ?? [],
      legal: owner.links,
      country: owner.country,
      leads: defaultsOf(owner).leads,
      instead: state === 'published' || rests || !row.instead ? null : await colleague(tx, row.instead),
    };
    return { named, published };
  });
  if (!found) return null;
  // No transaction waits for the store, and a card goes on without what lies there while that is away.
  const { named, published } = found;
  const read = await unlessUnavailable(() => readPictures(named));
  return { ...published, ...(read ?? withoutBytes(named)), incomplete: read === null };
}

/** What a signature is made from besides the card. */
async function signatureParts(
  tx: Tx,
  composition: Composition,
  house: HouseStyle | null,
  { options, timeZone }: { options: SignatureOptions | null; timeZone: string },
): Promise<PublishedSignature> {
  const { photo, logo: ticked } = signedPictures(composition);
  // Mails are light: the house's logo is that for light grounds.
  const own = composition.lines.some(({ id, on }) => id === HOUSE_LOGO && on.includes('signature'));
  const logo = own && house ? houseLogo(house, MAIL_GROUNDS.day)?.hash : ticked;
  const said = house?.signature;
  const locked = said ? (house.locks.signature ?? null) : null;
  const shown = await picturesBy(tx, said?.strips.flatMap((strip) => strip.picture?.hash ?? []) ?? []);
  return {
    options: (locked === null ? (options ?? said?.options) : said?.options) ?? FIRST_SIGNATURE,
    locked,
    below: belowIn(said, composition.language ?? 'en'),
    strips: publishedStrips(said?.strips ?? [], new Map(shown.map((row) => [row.hash, row])), timeZone),
    photo: signedPicture(photo ? await picture(tx, photo) : undefined, 'photo'),
    logo: signedPicture(logo ? await picture(tx, logo) : undefined, 'logo'),
  };
}

/** The pictures that a composition shows, as rows name them. */
export type NamedPictures = {
  isHouseLogo: boolean;
  onPage: Record<'photo' | 'logo' | 'logoOnBand' | 'logoByNight', PictureRow | null>;
  inFile: Record<'photo' | 'logo', PictureRow | null>;
};

type Pictures = Pick<PublishedCard, 'photo' | 'logo' | 'inFile' | 'logoOnBand' | 'logoByNight' | 'isHouseLogo'>;

/** The pictures that a composition, dressed by its house style, shows. */
export async function namedPictures(
  tx: Tx,
  composition: Composition,
  house: HouseStyle | null,
): Promise<NamedPictures> {
  const by = async (hash: string | undefined) => (hash ? ((await picture(tx, hash)) ?? null) : null);
  const logo = pictureOn(composition, 'logo', 'page');
  const { look } = composition;
  // A logo of the card's own is the same everywhere.
  const isHouse = house && composition.lines.some(({ id }) => id === HOUSE_LOGO);
  const onBand = isHouse ? houseLogo(house, look.palette.band)?.hash : undefined;
  const byNight = isHouse ? houseLogo(house, logoGround(nightLook(look)))?.hash : undefined;
  return {
    isHouseLogo: Boolean(isHouse),
    onPage: {
      photo: await by(pictureOn(composition, 'photo', 'page')),
      logo: await by(logo),
      logoOnBand: onBand === logo ? null : await by(onBand),
      logoByNight: byNight === logo ? null : await by(byNight),
    },
    inFile: {
      photo: await by(pictureOn(composition, 'photo', 'file')),
      logo: await by(pictureOn(composition, 'logo', 'file')),
    },
  };
}

/** Their bytes from the file store, outside of any transaction; one that the store has lost is as if it were not shown. Error: STORE_UNAVAILABLE. */
export async function readPictures({ isHouseLogo, onPage, inFile }: NamedPictures): Promise<Pictures> {
  const shown = async (row: PictureRow | null): Promise<ShownPicture | null> => {
    const page = row && (await files().get(row.page_hash));
    return page ? shownPicture(row, page) : null;
  };
  const carried = async (row: PictureRow | null) => row && files().get(row.file_hash);
  const [photo, logo, logoOnBand, logoByNight, filePhoto, fileLogo] = await Promise.all([
    shown(onPage.photo),
    shown(onPage.logo),
    shown(onPage.logoOnBand),
    shown(onPage.logoByNight),
    carried(inFile.photo),
    carried(inFile.logo),
  ]);
  return { isHouseLogo, photo, logo, logoOnBand, logoByNight, inFile: { photo: filePhoto, logo: fileLogo } };
}

function withoutBytes({ isHouseLogo, onPage }: NamedPictures): Pictures {
  const named = (row: PictureRow | null) => row && shownPicture(row, null);
  return {
    isHouseLogo,
    photo: named(onPage.photo),
    logo: named(onPage.logo),
    logoOnBand: named(onPage.logoOnBand),
    logoByNight: named(onPage.logoByNight),
    inFile: { photo: null, logo: null },
  };
}

/** The card shown instead, if it is out itself. */
async function colleague(tx: Tx, id: string): Promise<PublishedCard['instead']> {
  const row = await card(tx, id);
  const revision = row?.state === 'published' ? await latestRevision(tx, id) : undefined;
  const address = revision && (await currentAddress(tx, id));
  return revision && address ? { address, name: writtenName(revision.composition.name) } : null;
}

/** Today's version of a card, for answers that write no event. */
export const publishedVersion = (cardId: string): Promise<number | undefined> =>
  outsideTenants((db) => directoryVersion(db, cardId));
