import { NOWHERE, type Line } from '@/core/card';
import { suggestAddress } from '@/core/address';
import { COMPANY_DEFAULTS, type CompanyDefaults } from '@/core/company';
import { orRefuse } from '@/core/errors';
import { readBlock, readHours } from '@/core/record';
import { systemClock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { createCard } from '@/server/services/cards/create-card';
import { saveCard } from '@/server/services/cards/edit-card';
import { openCard } from '@/server/services/cards/open-card';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { addContact } from '@/server/services/contacts/contacts';
import { makeHandOut } from '@/server/services/hand-outs/make';
import { reusedHandOut } from '@/server/services/hand-outs/reused';
import { addRun, makePiece } from '@/server/services/pieces/print';
import { addPiece } from '@/server/services/pieces/parts';
import { makeSignature } from '@/server/services/hand-outs/signature';
import { takeContactFile } from '@/server/services/imports/begin-import';
import { saveSettings } from '@/server/services/organisation/company-settings';
import type { Imported } from '@/server/services/imports/import-contact';
import { addMember, changePassword } from '@/server/services/accounts/members';
import { chooseLeaders } from '@/server/services/roster/teams';
import { publishCard } from '@/server/services/publishing/publish-card';
import { actorOf, endSession } from '@/server/services/accounts/sessions';
import { confirmationFor } from '@/server/services/accounts/letters';
import { confirmAddress } from '@/server/services/accounts/own-address';
import { signIn } from '@/server/services/accounts/sign-in';
import { signUp, type NewAccount } from '@/server/services/accounts/sign-up';
import { addClientBlocks, addFairBlocks } from './blocks';
import { odileContact, tarnhopeContact } from './contact-files';
import { recordDemoEvents, type Audience } from './events';
import { addReplies } from './leads';
import { addHouseStyle, dress, dressOdile, LAYOUT_OF, OWN_LAYOUT } from './looks';
import { giveNewNumber } from './new-number';
import { FAIR, TARNHOPE_PEOPLE } from './people';
import { drawPortrait } from './portrait';
import { addDepots } from './offices';
import { bringWinterSheet } from './roster';
import { letSlip } from './slips';
import { addTeams } from './teams';

/** Sign-ins of the demo; the passwords are no secret. */
export const DEMO_SIGN_INS = [
  {
    email: 'maud@tarnhope.example',
    password: 'funicular-in-fog',
    who: 'Maud Aldercott, Tarnhope Cableways (24 people)',
  },
  { email: 'renske@tarnhope.example', password: 'chairlift-at-noon', who: 'Renske van der Aa, administrator there' },
  { email: 'ilse@tarnhope.example', password: 'rope-under-load', who: 'Ilse Varrow, holder: her own record and cards' },
  { email: 'idris@tarnhope.example', password: 'winch-in-the-wind', who: 'Idris Pellew, leads the team of engineers' },
  { email: 'clemence@tarnhope.example', password: 'figures-in-order', who: 'Clemence Thrale, analyst: figures only' },
  { email: 'odile@brandreth.example', password: 'curlew-at-dusk', who: 'Odile Brandreth, on her own (three cards)' },
];

/** What Maud tells new members; no secret. */
const FIRST_PASSWORD = 'first-on-the-mountain';

/** Placements of what is printed: how many copies are out. */
const PRINTED: Record<string, number> = { 'Card from the depot': 250, 'Paper card': 100 };

/** The placement of a signature; others are codes. */
const MAIL_SIGNATURE = 'Mail signature';

/** Cards without a code of their own yet: the newest people are not published. */
const NOT_YET_PUBLISHED = new Set(['Keld', 'Holloway', 'Garrowby']);

/** Confirms an address by the link that a letter would have brought. */
const confirmed = async (actor: Actor): Promise<void> =>
  confirmAddress((await confirmationFor(actor, systemClock)).split('/').at(-1)!, systemClock);

async function account(input: Omit<NewAccount, 'country' | 'timeZone'>): Promise<Actor> {
  const token = await signUp({ ...input, country: 'GB', timeZone: 'Europe/London' }, systemClock);
  const actor = (await actorOf(token, systemClock))!;
  await confirmed(actor);
  const known = (await actorOf(token, systemClock))!;
  await endSession(token);
  return known;
}

/** Takes in a file of one contact. */
async function imported(actor: Actor, text: string): Promise<Imported> {
  const taken = await takeContactFile(actor, Buffer.from(text), systemClock);
  if (!('imported' in taken)) throw new Error('The demo’s files hold one contact each.');
  return taken.imported;
}

/** Loads Tarnhope Cableways, Odile Brandreth and 90 days of response through the real services. */
export async function loadDemo(say: (line: string) => void): Promise<void> {
  const tarnhope = await loadTarnhope(say);
  const audiences = [...tarnhope.audiences, ...(await loadOdile())];
  const events = await recordDemoEvents(audiences, systemClock.now());
  await giveNewNumber(tarnhope.maud, tarnhope.ilse);
  say(`  ${events} views, saves and taps of the last 90 days`);
}

const TARNHOPE_DEFAULTS: CompanyDefaults = {
  ...COMPANY_DEFAULTS,
  texts: {
    resting: 'Away from the ropes for a while. Our switchboard knows who helps meanwhile: 020 7946 0100.',
    retired: 'This colleague has left Tarnhope Cableways. Our switchboard knows who took over: 020 7946 0100.',
  },
  ask: 'Maud Aldercott, 020 7946 0101',
  patterns: [
    { name: 'Chat', address: 'https://chat.example/{number}' },
    { name: 'Profile', address: 'https://profiles.example/in/{name}' },
  ],
};

async function loadTarnhope(
  say: (line: string) => void,
): Promise<{ audiences: Audience[]; maud: Actor; ilse: string }> {
  const [{ email, password }] = DEMO_SIGN_INS as [(typeof DEMO_SIGN_INS)[number]];
  const maud = await account({ name: 'Maud Aldercott', email, password, organisation: 'Tarnhope Cableways' });
  await addHouseStyle(maud);
  const links = { imprint: 'https://tarnhope.example/imprint', privacy: 'https://tarnhope.example/privacy' };
  const { name: firm, country, timeZone } = maud.organisation;
  await saveSettings(maud, { name: firm, country, timeZone, links, defaults: TARNHOPE_DEFAULTS }, systemClock);
  const belongs = await addDepots(maud);
  const audiences: Audience[] = [];
  const recordOf = new Map<string, string>();
  let patternId = '';
  for (const [at, person] of TARNHOPE_PEOPLE.entries()) {
    const portrait = await drawPortrait(at + 1, person.helmet ?? false);
    const made = await imported(maud, tarnhopeContact(person, portrait));
    recordOf.set(person.family, made.recordId);
    await belongs(person, made.recordId);
    if (person.family === 'Varrow') patternId = made.cardId;
    if (person.licence) await withLicence(maud, made, person.licence);
    const layout = LAYOUT_OF[person.family];
    if (layout) await dress(maud, made.cardId, { layout, follows: OWN_LAYOUT });
    const name = `${person.given} ${person.family}`;
    // Who wants a face below their mails ticks it.
    await reword(maud, made.cardId, (line, kind) =>
      kind === 'photo' ? { ...line, ticks: { ...line.ticks, signature: true } } : line,
    );
    await letSlip(maud, made.cardId, person.family);
    if (NOT_YET_PUBLISHED.has(person.family)) continue;
    audiences.push(
      await published(
        maud,
        made.cardId,
        suggestAddress(name),
        {
          [MAIL_SIGNATURE]: { usual: 0.7, atFair: 1.1, saves: 0.55 },
          'Card from the depot': { usual: 0.3, atFair: 0.9, saves: 0.5 },
        },
        0.35,
      ),
    );
    if (!FAIR.people.includes(person.family)) continue;
    const { cardId } = await createCard(
      maud,
      { recordId: made.recordId, audience: FAIR.audience, isPrivate: false },
      systemClock,
    );
    if (person.family === 'Varrow')
      await reword(maud, cardId, (line, detail) =>
        detail === 'title'
          ? { ...line, wording: 'Lead rope inspector, on the stand all week' }
          : detail === 'address'
            ? { ...line, part: 'town', gap: true }
            : line,
      );
    if (person.family === 'Varrow') {
      await addFairBlocks(maud, cardId);
      await dress(maud, cardId, { layout: 'skylark', follows: OWN_LAYOUT });
    }
    const [banner, back, desk] = FAIR.placements as [string, string, string];
    const doors = {
      [banner]: { usual: 0.05, atFair: 14, saves: 0.34 },
      [back]: { usual: 0.5, atFair: 5, saves: 0.49 },
      [desk]: { usual: 0.02, atFair: 4, saves: 0.4 },
    };
    audiences.push(await published(maud, cardId, `${suggestAddress(person.family)}-fair`, doors, 0.3));
    if (person.family === 'Varrow') {
      await makeHandOut(maud, { cardId, placement: 'Name badge', channel: 'tag', frozen: true }, systemClock);
      for (const [channel, placement] of FAIR.pieces) await addPiece(maud, { cardId, placement, channel }, systemClock);
    }
  }
  const teams = await addTeams(maud, recordOf);
  await loadMembers(maud, recordOf, teams.get('Engineers')!);
  await bringWinterSheet(maud, patternId);
  say(`  Tarnhope Cableways: ${TARNHOPE_PEOPLE.length} people`);
  return { audiences, maud, ilse: recordOf.get('Varrow')! };
}

async function loadOdile(): Promise<Audience[]> {
  const { email, password } = DEMO_SIGN_INS.at(-1)!;
  const odile = await account({ name: 'Odile Brandreth', email, password });
  const made = await imported(odile, odileContact(await drawPortrait(44, false)));
  const { recordId } = made;
  const festivals = (await createCard(odile, { recordId, audience: 'Festivals', isPrivate: false }, systemClock))
    .cardId;
  const neighbours = (await createCard(odile, { recordId, audience: 'Neighbours', isPrivate: true }, systemClock))
    .cardId;
  await reword(odile, made.cardId, (line) => line, 'Clients');
  await addClientBlocks(odile, made.cardId);
  await reword(odile, festivals, (line, kind, shown) =>
    kind === 'title'
      ? { ...line, wording: 'Wildlife sound recordist, field workshops' }
      : shown.includes('calls.example')
        ? { ...line, ticks: NOWHERE }
        : line,
  );
  await reword(odile, neighbours, (line, kind) => (kind === 'birthday' ? { ...line, ticks: NOWHERE } : line));
  await dressOdile(odile, { clients: made.cardId, festivals, neighbours });
  for (const known of ACQUAINTANCES) {
    let count = 0;
    const read = { country: 'GB', zone: 'Europe/London', freshId: () => `known-${(count += 1)}` };
    const { name, details } = readBlock(known, read);
    await addContact(odile, { name: name ?? '', details }, systemClock);
  }
  const out = [
    await published(
      odile,
      made.cardId,
      'odile-clients',
      {
        [MAIL_SIGNATURE]: { usual: 1.6, atFair: 1.6, saves: 0.5 },
        'Invoice footer': { usual: 0.3, atFair: 0.3, saves: 0.2 },
      },
      1,
    ),
    await published(
      odile,
      festivals,
      'odile-festivals',
      {
        'Sticker on the recorder case': { usual: 1.1, atFair: 9, saves: 0.42 },
        'Workshop poster': { usual: 0.6, atFair: 6, saves: 0.25 },
      },
      0.6,
    ),
    await published(odile, neighbours, 'odile-neighbours', {}, 0.15),
  ];
  const list = { channel: 'profile' as const, placement: 'Association of sound recordists', occasionId: null };
  await reusedHandOut(odile, made.cardId, list, systemClock);
  await addReplies(odile);
  return out;
}

/** Whom Odile refers, as their mails end; numbers reserved for fiction. */
const ACQUAINTANCES = [
  'Dell Hythe\nRope splicer\nHythe & Sons Ltd\nOffice: 020 7946 0211\nMobile: 07700 900211\ndell@hythe.example\nwww.hythe.example',
  'Saoirse Penhallow\nBat ecologist\nOffice: 020 7946 0377\nHome: 01632 960377\nsaoirse@penhallow.example',
];

/** Members of other roles, who have changed their first passwords already; and one who has not. */
async function loadMembers(maud: Actor, recordOf: Map<string, string>, engineers: string): Promise<void> {
  const own = (family: string) => recordOf.get(family)!;
  const roles = { renske: 'administrator', ilse: 'holder', idris: 'team leader', clemence: 'analyst' } as const;
  const records = {
    ...{ renske: own('van der Aa'), ilse: own('Varrow') },
    ...{ idris: own('Pellew'), clemence: own('Thrale') },
  };
  for (const { email, password, who } of DEMO_SIGN_INS) {
    const key = email.split('@')[0] as keyof typeof roles;
    if (!Object.hasOwn(roles, key)) continue;
    const place = { role: roles[key], ownRecord: records[key] };
    const added = { name: who.split(',')[0]!, email, password: FIRST_PASSWORD, ...place };
    const { id } = await addMember(maud, added, systemClock);
    if (place.role === 'team leader') await chooseLeaders(maud, engineers, [id], systemClock);
    const { token } = await signIn({ email, password: FIRST_PASSWORD, from: '192.0.2.1' }, systemClock);
    await confirmed((await actorOf(token, systemClock))!);
    const member = await actorOf(token, systemClock);
    const changed = { present: FIRST_PASSWORD, next: password, device: 'computer' as const };
    await endSession((await changePassword(member!, changed, systemClock)).token);
  }
  const keeper = { name: 'Wilhelmina Sorrel', email: 'wilhelmina@tarnhope.example', password: FIRST_PASSWORD };
  await addMember(maud, { ...keeper, role: 'brand keeper', ownRecord: own('Sorrel') }, systemClock);
}

const DEPOT_HOURS = 'Mon-Fri 7-16, Sat 8-12';

/** Adds an inspector's licence and the depot's hours to the record by hand, and ticks them on the card. */
async function withLicence(actor: Actor, made: { recordId: string; cardId: string }, licence: string): Promise<void> {
  const { version, body } = await openRecord(actor, made.recordId);
  const common = { label: '', preferred: false };
  const detail = { kind: 'licence' as const, id: 'licence', ...common, text: licence };
  const hours = orRefuse(readHours(DEPOT_HOURS, 'Europe/London'));
  const details = [
    ...body.details,
    detail,
    { kind: 'hours' as const, id: 'hours', ...common, label: 'Depot', ...hours },
  ];
  await saveRecord(actor, made.recordId, version, { ...body, details }, systemClock);
  await reword(actor, made.cardId, (line, kind) =>
    kind === 'licence' || kind === 'hours' ? { ...line, ticks: { ...line.ticks, page: true, file: true } } : line,
  );
}

/** Changes lines of a card by kind of detail and shown value, and its audience if one is given. */
async function reword(
  actor: Actor,
  cardId: string,
  change: (line: Line, kind: string, shown: string) => Line,
  audience?: string,
): Promise<void> {
  const card = await openCard(actor, cardId);
  const lines = card.lines.map((line) => {
    const detail = card.record.details.find(({ id }) => id === line.detail);
    return change(line, detail?.kind ?? 'name', JSON.stringify(detail ?? {}));
  });
  await saveCard(actor, cardId, { baseVersion: card.version, lines, audience: audience ?? card.audience }, systemClock);
}

/** A printed card with a run of copies. */
async function printedPiece(actor: Actor, cardId: string, placement: string): Promise<{ id: string }> {
  const made = await makePiece(actor, { cardId, placement }, systemClock);
  const printedOn = new Date(systemClock.now()).toISOString().slice(0, 10);
  await addRun(
    actor,
    made.id,
    { printedOn, copies: PRINTED[placement]!, place: 'Print shop in Skell Bridge' },
    systemClock,
  );
  return made;
}

async function published(
  actor: Actor,
  cardId: string,
  address: string,
  placements: Record<string, { usual: number; atFair: number; saves: number }>,
  direct: number,
): Promise<Audience> {
  const card = await openCard(actor, cardId);
  await publishCard(actor, cardId, { baseVersion: card.version, address }, systemClock);
  const doors: Audience['doors'] = [{ handOutId: null, usual: direct, atFair: direct * 2, saves: 0.3 }];
  for (const [placement, rates] of Object.entries(placements)) {
    const { id } =
      placement === MAIL_SIGNATURE
        ? await makeSignature(actor, cardId, systemClock)
        : placement in PRINTED
          ? await printedPiece(actor, cardId, placement)
          : await makeHandOut(actor, { cardId, placement }, systemClock);
    doors.push({ handOutId: id, ...rates });
  }
  const lines = card.lines.filter((line) => line.ticks.page).map((line) => line.detail);
  return { organisationId: actor.organisationId, cardId, lines, doors };
}
