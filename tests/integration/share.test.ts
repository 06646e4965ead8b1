import { readFileSync } from 'node:fs';
import { inTenant, outsideTenants } from '@/server/db/pool';
import { sortInbox } from '@/server/db/response/events';
import type { Actor } from '@/server/services/accounts/actor';
import { setState } from '@/server/services/cards/card-state';
import { openCard } from '@/server/services/cards/open-card';
import { renameHandOut } from '@/server/services/hand-outs/change';
import { makeOccasion } from '@/server/services/hand-outs/occasions';
import { shareCard } from '@/server/services/hand-outs/share';
import { dropTemplate, listTemplates, saveTemplate } from '@/server/services/hand-outs/templates';
import { takeContactFile } from '@/server/services/imports/begin-import';
import { publishCard } from '@/server/services/publishing/publish-card';
import { saveCard } from '@/server/services/cards/edit-card';
import { readLastUses } from '@/server/services/response/last-uses';
import { readResponse } from '@/server/services/response/read-response';
import { keepDueFigures } from '@/server/services/response/figures';
import { ask, clock, refused } from './full-card';
import { newActor, useDatabase } from './place';

useDatabase();
let maud: Actor;
let cardId: string;
const ONCE = { placement: 'Shared', occasionId: null };

beforeAll(async () => {
  maud = await newActor(clock);
  const taken = await takeContactFile(maud, readFileSync('tests/fixtures/contacts/phone-export-3.vcf'), clock);
  if (!('imported' in taken)) throw new Error('The fixture holds one contact.');
  ({ cardId } = taken.imported);
  await publishCard(maud, cardId, { baseVersion: 1, address: 'is-shared' }, clock);
});

const shares = async () => (await openCard(maud, cardId)).handOuts.filter(({ channel }) => channel === 'share');

test('what a device shares is the file that recipients get; one hand-out a placement and occasion, also of two at once', async () => {
  const [one, two] = await Promise.all([shareCard(maud, cardId, ONCE, clock), shareCard(maud, cardId, ONCE, clock)]);
  expect(one.link).toBe(two.link);
  const path = new URL(one.link).pathname;
  expect(one.file.text).toBe(String((await ask(`${path}.vcf`)).body));
  const day = { name: 'Cable Days', place: 'Hythe', firstDay: '2026-12-01', lastDay: '2026-12-02' };
  const { id: occasionId } = await makeOccasion(maud, day, clock);
  const fair = await shareCard(maud, cardId, { ...ONCE, occasionId }, clock);
  const desk = await shareCard(maud, cardId, { ...ONCE, placement: 'front desk' }, clock);
  expect(new Set([one.link, fair.link, desk.link]).size).toBe(3);
  // Capitals make no other place.
  expect((await shareCard(maud, cardId, { ...ONCE, placement: 'Front Desk' }, clock)).link).toBe(desk.link);
  const { id } = (await shares()).find(({ placement }) => placement === 'front desk')!;
  const rename = renameHandOut(maud, id, { placement: 'Shared', occasionId: null }, clock);
  await expect(rename).rejects.toMatchObject(refused('HAND_OUT_THERE'));
  await renameHandOut(maud, id, { placement: 'back desk', occasionId: null }, clock);
  for (const placement of ['', ' \u202e '])
    await expect(shareCard(maud, cardId, { ...ONCE, placement }, clock)).rejects.toMatchObject(refused('INPUT'));
});

test('private values that the file carries are named before it leaves', async () => {
  const { record, lines, version, audience } = await openCard(maud, cardId);
  const home = {
    kind: 'phone' as const,
    id: 'home',
    label: '',
    preferred: false,
    number: '+441632960299',
    uses: ['home' as const],
  };
  expect((await shareCard(maud, cardId, ONCE, clock)).leaving).toEqual([]);
  expect(record.details.length).toBeGreaterThan(0);
  const on = {
    page: false,
    file: true,
    code: false,
    tag: false,
    signature: false,
    print: false,
    backdrop: false,
    pass: false,
  };
  const own = {
    detail: 'home',
    label: null,
    wording: null,
    part: null,
    emphasis: 'plain' as const,
    gap: false,
    own: home,
    ticks: on,
  };
  await saveCard(maud, cardId, { baseVersion: version, lines: [...lines, own], audience }, clock);
  await publishCard(maud, cardId, { baseVersion: version + 1, address: 'is-shared' }, clock);
  const { leaving, file } = await shareCard(maud, cardId, ONCE, clock);
  expect(leaving.map((value) => value.replace(/\D/g, ''))).toEqual(['441632960299']);
  expect(file.text.replace(/[\s-]/g, '')).toContain('441632960299');
});

test('a view by its link is counted there, with the revision that was seen; the list says when it was last used', async () => {
  const { link } = await shareCard(maud, cardId, { ...ONCE, placement: 'last used' }, clock);
  const { id } = (await shares()).find(({ placement }) => placement === 'last used')!;
  expect(await readLastUses(maud, cardId)).not.toHaveProperty(id);
  await ask(new URL(link).pathname);
  await ask('/c/is-shared', { 'user-agent': 'curl/8.5.0' });
  await outsideTenants(sortInbox);
  const events = await inTenant(maud.organisationId, (tx) =>
    tx('events').where({ hand_out_id: id }).select('kind', 'revision'),
  );
  const { revision } = await openCard(maud, cardId);
  expect(events).toEqual([{ kind: 'view', revision: revision!.number }]);
  // A program's visit to the short address is no use.
  const uses = await readLastUses(maud, cardId);
  expect([uses[id], uses['']]).toEqual(['2026-11-24', undefined]);
  // The same when the day is over and its figures are kept; east of Greenwich a day begins earlier.
  clock.set('2026-11-25T13:30:00Z');
  await ask(new URL(link).pathname);
  clock.set('2026-11-28T09:00:00Z');
  await outsideTenants(sortInbox);
  await keepDueFigures(clock);
  expect((await readLastUses(maud, cardId))[id]).toBe('2026-11-25');
  const of = (await readResponse(maud, { cardId, days: 7 }, clock)).summary.handOuts.find(
    ({ handOut }) => handOut === id,
  );
  expect(of?.views).toBe(2);
  clock.set('2026-11-24T09:00:00Z');
});

test('nobody shares a card that rests, is another organisation’s, or was never published', async () => {
  const stranger = await newActor(clock);
  await expect(shareCard(stranger, cardId, ONCE, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  await setState(maud, cardId, { state: 'resting', notice: '', instead: null }, clock);
  await expect(shareCard(maud, cardId, ONCE, clock)).rejects.toMatchObject(refused('CARD_NOT_PUBLISHED'));
  await setState(maud, cardId, { state: 'published', notice: '', instead: null }, clock);
});

test('words that a member keeps are theirs; those of one name give way, and there is an end to them', async () => {
  await saveTemplate(maud, { name: 'Fair', body: 'Hello {name}' });
  await saveTemplate(maud, { name: 'Fair', body: 'Good day {name}' });
  const { templates } = await listTemplates(maud);
  expect(templates.map(({ name, body }) => [name, body])).toEqual([['Fair', 'Good day {name}']]);
  const stranger = await newActor(clock);
  const colleague = { ...maud, userId: stranger.userId };
  for (const other of [stranger, colleague]) {
    expect((await listTemplates(other)).templates).toEqual([]);
    await expect(dropTemplate(other, templates[0]!.id)).rejects.toMatchObject(refused('NOT_FOUND'));
  }
  for (const wrong of [{ name: ' ' }, { body: ' \n ' }])
    await expect(saveTemplate(maud, { name: 'x', body: 'x', ...wrong })).rejects.toMatchObject(refused('INPUT'));
  for (let at = 1; at < 30; at += 1) await saveTemplate(maud, { name: `Fair ${at}`, body: 'x' });
  await expect(saveTemplate(maud, { name: 'one more', body: 'x' })).rejects.toMatchObject(refused('TEMPLATES_FULL'));
  await dropTemplate(maud, templates[0]!.id);
  await saveTemplate(maud, { name: 'one more', body: 'x' });
});
