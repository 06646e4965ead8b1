import sharp from 'sharp';
import { CONTACT_FORMS, contentText, nearOf, type Content } from '@/core/code';
import { NO_HOUSE } from '@/core/house';
import { PLAIN_STYLE, symbolInStyle, type CodeStyle } from '@/core/qr';
import { readContactFile } from '@/core/vcard';
import { createAnswerer } from '@/recipient';
import { closeCompute } from '@/server/compute';
import { recordEvent } from '@/server/intake/record-event';
import { visitorHash } from '@/server/intake/visitor-hash';
import type { Actor } from '@/server/services/accounts/actor';
import { saveCard } from '@/server/services/cards/edit-card';
import { openCard } from '@/server/services/cards/open-card';
import { codeAsFile, openCode, restyle, testCode } from '@/server/services/hand-outs/codes';
import { testDesign } from '@/server/services/hand-outs/designs';
import { fetchOccasion, handOver } from '@/server/services/hand-outs/hand-over';
import { makeHandOut } from '@/server/services/hand-outs/make';
import {
  changeOccasion,
  listOccasions,
  listPlacements,
  makeOccasion,
  removeOccasion,
} from '@/server/services/hand-outs/occasions';
import { takeAsTest } from '@/server/services/hand-outs/test-scan';
import { saveHouse } from '@/server/services/house/house-style';
import { loadPublished, publishedVersion } from '@/server/services/publishing/load-published';
import { addLogo } from '@/server/services/media/add-picture';
import { publishCard } from '@/server/services/publishing/publish-card';
import { createRecord } from '@/server/services/records/create-record';
import { readResponse } from '@/server/services/response/read-response';
import { sweep } from '@/server/services/jobs/sweeps';
import { clockAt, newActor, useDatabase } from '../place';

useDatabase();
afterAll(closeCompute);
const clock = clockAt('2026-11-26T09:00:00Z');
const SVG = { format: 'svg', widthMm: 25, dpi: 300, spot: null } as const;
let published = 0;

/** A published card of Ilse Varrow, whose name and phone its code carries. */
async function newCard(actor: Actor) {
  const { cardId } = await createRecord(
    actor,
    { name: 'Ilse Varrow', phone: '020 7946 0182', email: 'ilse@tarnhope.example' },
    clock,
  );
  const { lines, version } = await openCard(actor, cardId);
  const inCode = lines.map((line) => ({ ...line, ticks: { ...line.ticks, code: line.ticks.page } }));
  await saveCard(actor, cardId, { baseVersion: version, lines: inCode, audience: 'Fair' }, clock);
  await publishCard(actor, cardId, { baseVersion: version + 1, address: `coded-${(published += 1)}` }, clock);
  return cardId;
}
const svgOf = async (actor: Actor, id: string) => String((await codeAsFile(actor, id, SVG, clock)).bytes);
const refused = (code: string) => ({ problem: { code } });

test('what is frozen is drawn again byte for byte, whatever house style and style come after it; live codes take the new one', async () => {
  const actor = await newActor(clock);
  const cardId = await newCard(actor);
  const frozen = await makeHandOut(
    actor,
    { cardId, placement: 'Badge', content: { what: 'contact', form: 'vCard 3.0', link: true } },
    clock,
  );
  const live = await makeHandOut(actor, { cardId, placement: 'Banner', content: { what: 'card' } }, clock);
  // Until a file of it is taken out it may be drawn otherwise, and never again after that.
  const dots: CodeStyle = { ...PLAIN_STYLE, modules: 'dots', fill: 95 };
  await restyle(actor, frozen.id, { style: dots, all: false }, clock);
  const [frozenBefore, liveBefore] = [await svgOf(actor, frozen.id), await svgOf(actor, live.id)];
  await saveHouse(
    actor,
    { style: { ...NO_HOUSE, codes: { ink: '#2A2422', ground: '#F5F3EE' } }, baseNumber: 0, note: '' },
    clock,
  );
  // One that every code reads in: what a code says is drawn at random.
  const style: CodeStyle = { ...PLAIN_STYLE, ink: '#4B2A55', words: 'Save the contact' };
  const told = await restyle(actor, live.id, { style, all: true }, clock);
  // The code that every card gets, and this one; the badge is named.
  expect(told).toEqual({ restyled: 2, frozen: ['Badge'] });
  await expect(restyle(actor, frozen.id, { style, all: false }, clock)).rejects.toMatchObject(
    refused('HAND_OUT_TAKEN'),
  );
  expect((await openCode(actor, frozen.id, clock)).takenAt).toBe('2026-11-26T09:00:00.000Z');
  expect(await svgOf(actor, frozen.id)).toBe(frozenBefore);
  const after = await svgOf(actor, live.id);
  expect(after).not.toBe(liveBefore);
  expect(after).toContain('#4B2A55');
  // It was proven as it was kept, and is drawn the same again.
  const { proof, version } = await openCode(actor, live.id, clock);
  expect(proof).toMatchObject({ of: 24, faults: [] });
  expect(version).toBe(symbolInStyle((await openCode(actor, live.id, clock)).text, style).version);
  expect(await svgOf(actor, live.id)).toBe(after);
});

test('a style that does not read is kept with its faults; a lock keeps a holder from it, and not who keeps the style', async () => {
  const actor = await newActor(clock);
  const cardId = await newCard(actor);
  const { id } = await makeHandOut(actor, { cardId, placement: 'Banner' }, clock);
  await restyle(actor, id, { style: { ...PLAIN_STYLE, ink: '#C8C8C8' }, all: false }, clock);
  expect((await openCode(actor, id, clock)).proof?.faults).toContain('contrast');
  const locks = { codes: 'The press office signs them off.' };
  await saveHouse(actor, { style: { ...NO_HOUSE, locks }, baseNumber: 0, note: '' }, clock);
  const record = (await openCard(actor, cardId)).recordId;
  const holder: Actor = { ...actor, role: 'holder', ownRecord: record };
  await expect(restyle(holder, id, { style: PLAIN_STYLE, all: false }, clock)).rejects.toMatchObject(refused('LOCKED'));
  expect((await openCode(holder, id, clock)).locked).toBe(locks.codes);
  await restyle(actor, id, { style: PLAIN_STYLE, all: false }, clock);
  expect((await openCode(actor, id, clock)).proof?.faults).toEqual([]);
});

test('a contact in a code reads as its form does, leads to the living card, and holds what is ticked for codes alone', async () => {
  const actor = await newActor(clock);
  const cardId = await newCard(actor);
  for (const form of CONTACT_FORMS) {
    const made = await makeHandOut(
      actor,
      { cardId, placement: form, content: { what: 'contact', form, link: true } },
      clock,
    );
    const { text } = await openCode(actor, made.id, clock);
    expect([form, readContactFile(text, 'GB').contacts.length]).toEqual([form, 1]);
    expect(text).toContain('2079460182');
    expect(text.replace(/\\/g, '').toLowerCase()).toContain(`/h/${made.code.toLowerCase()}`);
  }
  // A line that the page does not give out is no content of a code.
  const unticked = { what: 'call', line: 'nothing' } as const;
  await expect(makeHandOut(actor, { cardId, placement: 'x', content: unticked }, clock)).rejects.toMatchObject(
    refused('NOT_FOUND'),
  );
});

test.each<[Content, string]>([
  // RFC 3966, RFC 6068 and RFC 5870 by their examples' form; Wi-Fi codes: common practice, no published source.
  [
    { what: 'wifi', name: 'Moor; "upper"', password: 'a;b:c"d\\', kind: 'WPA', hidden: true },
    'WIFI:T:WPA;S:Moor\\; \\"upper\\";P:a\\;b\\:c\\"d\\\\;H:true;;',
  ],
  [{ what: 'wifi', name: 'Open', password: 'not sent', kind: 'none', hidden: false }, 'WIFI:T:nopass;S:Open;;'],
  [{ what: 'place', latitude: 54.5, longitude: -3.2, label: '' }, 'geo:54.5,-3.2'],
  [{ what: 'address', url: 'tarnhope.example/fair day' }, 'https://tarnhope.example/fair%20day'],
  [{ what: 'words', text: 'Grüße \ud800' }, 'Grüße \ufffd'],
])('what is not about the card is written as readers take it: %o', (content, text) => {
  const composition = { lines: [] } as unknown as Parameters<typeof contentText>[1];
  expect(contentText(content, composition, { link: '' })).toEqual({ ok: true, value: text });
});

test('nothing, too much, and links that run programs are no codes', () => {
  const composition = { lines: [] } as unknown as Parameters<typeof contentText>[1];
  const codeOf = (content: Content) => {
    const made = contentText(content, composition, { link: '' });
    return made.ok ? made.value : made.problem.code;
  };
  expect(codeOf({ what: 'words', text: '  ' })).toBe('CONTENT_EMPTY');
  expect(codeOf({ what: 'wifi', name: ' ', password: '', kind: 'WPA', hidden: false })).toBe('CONTENT_EMPTY');
  expect(codeOf({ what: 'words', text: 'x'.repeat(2_331) })).toBe('CONTENT_TOO_LARGE');
  expect(codeOf({ what: 'address', url: 'javascript:alert(1)' })).toBe('LINK_SCHEME_REFUSED');
});

test.each([
  // RFC 1918, RFC 4193, RFC 6761, RFC 6762.
  ['http://127.0.0.1:4600/h/X', 'computer'],
  ['http://[::1]/h/X', 'computer'],
  ['HTTP://192.168.1.20/H/X', 'network'],
  ['http://172.20.0.1/', 'network'],
  ['http://[fd00::1]/', 'network'],
  ['http://heath.local/', 'network'],
  ['http://studio/', 'network'],
  ['https://c.tarnhope.example/h/X', null],
  ['http://172.32.0.1/', null],
  ['tel:+442079460182', null],
])('%s is reached from %s', (link, near) => expect(nearOf(link)).toBe(near));

test('the scan that a test waits for is seen and not counted; the next one is', async () => {
  const actor = await newActor(clock);
  const cardId = await newCard(actor);
  const { id, code } = await makeHandOut(actor, { cardId, placement: 'Banner' }, clock);
  const answer = createAnswerer({
    ...{
      clock,
      load: loadPublished,
      preview: async () => null,
      version: publishedVersion,
      visitor: visitorHash,
      record: recordEvent,
    },
    test: (card) => takeAsTest(card.organisationId, card.handOutId!, card.cardId, clock),
  });
  const scan = async () =>
    (
      await answer({
        ...{ method: 'GET', path: `/h/${code}`, query: new URLSearchParams(), address: '192.0.2.9', body: '' },
        header: (name) => (name === 'user-agent' ? 'Mozilla/5.0 (iPhone) Safari' : ''),
      })
    ).headers['Heathland-Event'];
  expect(await scan()).toBe('recorded');
  await testCode(actor, id, clock);
  expect((await openCode(actor, id, clock)).waits).toBe(true);
  // A card that was kept ready learns of the test by its version, and counts one view until then at most.
  const seen = [await scan(), await scan(), await scan()];
  expect(seen.filter((each) => each === 'not-counted')).toHaveLength(1);
  expect((await openCode(actor, id, clock)).testedAt).toBe('2026-11-26T09:00:00.000Z');
  await sweep(['event inbox'], clock);
  const { summary } = await readResponse(actor, { cardId, days: 7 }, clock);
  expect(summary.totals.views).toBe(3);
});

test('a printed design is known again as ours, and told to be stale once the card says something else', async () => {
  const actor = await newActor(clock);
  const cardId = await newCard(actor);
  const { id } = await makeHandOut(
    actor,
    { cardId, placement: 'Badge', content: { what: 'contact', form: 'vCard 3.0', link: true } },
    clock,
  );
  const { bytes } = await codeAsFile(actor, id, { ...SVG, format: 'png', widthMm: 60 }, clock);
  const look = async (who: Actor) => (await testDesign(who, bytes)).codes[0]!;
  expect(await look(actor)).toMatchObject({
    report: { faults: [] },
    ours: { id, live: false, same: true, changedAt: null },
  });
  const { lines, version } = await openCard(actor, cardId);
  // Published again as it was, it is still current; without its number in codes it is not.
  const nameAlone = lines.map((line) => ({ ...line, ticks: { ...line.ticks, code: line.detail === 'name' } }));
  await saveCard(actor, cardId, { baseVersion: version, lines: nameAlone, audience: 'Fair' }, clock);
  await publishCard(actor, cardId, { baseVersion: version + 1, address: `coded-${published}` }, clock);
  expect((await look(actor)).ours).toMatchObject({
    changedAt: '2026-11-26T09:00:00.000Z',
    gone: [expect.stringMatching(/phone/i)],
  });
  // Nobody else is told whose it is.
  expect((await look(await newActor(clock))).ours).toBeNull();
  await expect(testDesign(actor, Buffer.from('no picture'))).rejects.toMatchObject(refused('DESIGN_UNREADABLE'));
});

test('cards are held up with a code of their own at each occasion that was fetched, made once', async () => {
  const actor = await newActor(clock);
  const cardId = await newCard(actor);
  const record = (await openCard(actor, cardId)).recordId;
  const holder: Actor = { ...actor, role: 'holder', ownRecord: record };
  const over = { name: 'Over', place: '', firstDay: '2026-11-01', lastDay: '2026-11-25' };
  await makeOccasion(actor, over, clock);
  const { id } = await makeOccasion(
    actor,
    { name: 'Cable Days', place: 'Tarnhope', firstDay: '2026-11-26', lastDay: '2026-11-28' },
    clock,
  );
  expect((await listOccasions(actor, clock)).map(({ name }) => name)).toEqual(['Cable Days']);
  expect(await fetchOccasion(holder, id, clock)).toEqual({ made: 1 });
  expect(await fetchOccasion(holder, id, clock)).toEqual({ made: 0 });
  const { cards, occasions } = await handOver(holder, clock);
  expect(occasions).toEqual([{ id, name: 'Cable Days' }]);
  expect(cards).toHaveLength(1);
  expect(cards[0]!.at[id]!.link).not.toBe(cards[0]!.link);
  // One that codes are for is set right, and not removed; nobody else's is either.
  const later = { name: 'Cable Days', place: 'Upper Tarnhope', firstDay: '2026-11-27', lastDay: '2026-11-28' };
  await changeOccasion(actor, id, later, clock);
  expect(await listOccasions(actor, clock)).toEqual([{ id, ...later }]);
  await expect(removeOccasion(actor, id, clock)).rejects.toMatchObject(refused('OCCASION_USED'));
  const stranger = await newActor(clock);
  await expect(changeOccasion(stranger, id, later, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  await expect(removeOccasion(stranger, id, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  const unused = await makeOccasion(actor, later, clock);
  await removeOccasion(actor, unused.id, clock);
  expect(await listOccasions(actor, clock)).toHaveLength(1);
  expect(await listPlacements(stranger)).toEqual([]);
  // Somebody else's occasion is none.
  await expect(fetchOccasion(await newActor(clock), id, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
});

test('a number that was unticked since publishing leaves in no new code that calls it', async () => {
  const actor = await newActor(clock);
  const cardId = await newCard(actor);
  const { lines, version, record } = await openCard(actor, cardId);
  const phone = record.details.find(({ kind }) => kind === 'phone')!;
  const calling = { cardId, placement: 'Badge', content: { what: 'call', line: phone.id } } as const;
  expect((await openCode(actor, (await makeHandOut(actor, calling, clock)).id, clock)).text).toBe('tel:+442079460182');
  const without = lines.filter(({ detail }) => detail === 'name');
  const off = { page: false, file: false, code: false, tag: false, signature: false, print: false };
  const rest = lines
    .filter(({ detail }) => detail !== 'name')
    .map((line) => ({ ...line, ticks: { ...line.ticks, ...off } }));
  await saveCard(actor, cardId, { baseVersion: version, lines: [...without, ...rest], audience: 'Fair' }, clock);
  await expect(makeHandOut(actor, calling, clock)).rejects.toMatchObject(refused('PROOF_FAILED'));
});

test('a new code is drawn as the house draws its codes, with its logo, and leaves a card’s own style be', async () => {
  const actor = await newActor(clock);
  const cardId = await newCard(actor);
  const logo = await sharp({ create: { width: 80, height: 40, channels: 3, background: '#2A2422' } })
    .png()
    .toBuffer();
  const { picture } = await addLogo(actor, logo, clock);
  const codes = { ink: '#2A2422', ground: '#FFFFFF', modules: 'soft', finderShape: 'soft', logo: 6 } as const;
  const logos = { onLight: { hash: picture, width: 80, height: 40 }, onDark: null };
  await saveHouse(actor, { style: { ...NO_HOUSE, codes, logos }, baseNumber: 0, note: '' }, clock);
  const { id } = await makeHandOut(actor, { cardId, placement: 'Banner' }, clock);
  const { style, proof, house } = await openCode(actor, id, clock);
  expect(style).toMatchObject({ ink: '#2A2422', modules: 'soft', finderShape: 'soft', mark: { percent: 6, ratio: 2 } });
  expect(house?.logo).toEqual({ hash: picture, percent: 6 });
  expect(proof?.faults).toEqual([]);
  // The card's newest that passes goes before the house's.
  await restyle(actor, id, { style: { ...PLAIN_STYLE, ink: '#4B2A55' }, all: false }, clock);
  const next = await makeHandOut(actor, { cardId, placement: 'Van' }, clock);
  expect((await openCode(actor, next.id, clock)).style).toMatchObject({ ink: '#4B2A55', mark: null });
});
