import { addedTicks, goesOut } from '@/core/card';
import type { Detail, PersonRecord } from '@/core/record';
import { createCard } from '@/server/services/cards/create-card';
import { createRecord } from '@/server/services/records/create-record';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { openCard } from '@/server/services/cards/open-card';
import type { Actor } from '@/server/services/accounts/actor';
import { publishCard } from '@/server/services/publishing/publish-card';
import { cardsBehind } from '@/server/services/publishing/publish-several';
import { showOnCards } from '@/server/services/records/show-added';
import { clock, pageAt } from './full-card';
import { newActor, useDatabase } from './place';

useDatabase();

const common = { label: '', preferred: false };
const office: Detail = { ...common, kind: 'phone', id: 'office', number: '+442079460183', uses: ['work'] };
const mobile: Detail = { ...common, kind: 'phone', id: 'mobile', number: '+447700900184', uses: ['mobile'] };
const title: Detail = { ...common, kind: 'title', id: 'title', text: 'Rope inspector' };

const shows = async (actor: Actor, cardId: string) =>
  (await openCard(actor, cardId)).lines.filter(goesOut).map(({ detail }) => detail);

/** What is private is common practice, no published source. */
test('what comes to a record shows on drafts as far as it is not private, and on what is published once somebody says so', async () => {
  const actor = await newActor(clock);
  const { recordId, cardId: out } = await createRecord(
    actor,
    { name: 'Ilse Varrow', phone: '020 7946 0182', email: '' },
    clock,
  );
  const { cardId: draft } = await createCard(actor, { recordId, audience: 'Fair', isPrivate: false }, clock);
  await publishCard(actor, out, { baseVersion: 1, address: 'what-comes' }, clock);
  const add = async (change: (body: PersonRecord) => Detail[]) => {
    const { version, body } = await openRecord(actor, recordId);
    await saveRecord(actor, recordId, version, { ...body, details: change(body) }, clock);
  };
  await add(({ details }) => [...details, office, mobile, title]);
  expect(await shows(actor, draft)).toEqual(['name', 'd1', 'office', 'title']);
  expect(await shows(actor, out)).toEqual(['name', 'd1']);
  // Marked as for work later on: shown on drafts then.
  const markMobile = (...uses: string[]) =>
    add(({ details }) => details.map((each) => (each.id === 'mobile' ? ({ ...each, uses } as Detail) : each)));
  await markMobile('mobile', 'work');
  expect(await shows(actor, draft)).toEqual(['name', 'd1', 'office', 'mobile', 'title']);
  // And off them again: nobody ticked a private number.
  await markMobile('mobile', 'home');
  expect(await shows(actor, draft)).toEqual(['name', 'd1', 'office', 'title']);
  await markMobile('mobile', 'work');
  expect((await cardsBehind(actor, recordId)).cards).toEqual([]);
  await showOnCards(actor, recordId, { details: ['title', 'office'], onCards: [out] }, clock);
  expect(await shows(actor, out)).toEqual(['name', 'd1', 'office', 'title']);
  expect(await pageAt('/c/what-comes')).not.toContain('Rope inspector');
  expect((await cardsBehind(actor, recordId)).cards.map(({ id }) => id)).toEqual([out]);
  // A copy for another audience keeps what is public.
  const copy = await createCard(
    actor,
    { recordId, audience: 'Clients', isPrivate: false, from: { card: draft } },
    clock,
  );
  expect(await shows(actor, copy.cardId)).toEqual(['name', 'd1', 'office', 'mobile', 'title']);
  expect(addedTicks(mobile, { ...(await openRecord(actor, recordId)).body }, { isPrivate: false }).page).toBe(false);
});
