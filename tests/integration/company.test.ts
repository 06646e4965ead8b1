import { CompanyDefaultsSchema } from '@/core/company';
import { LIMITS } from '@/core/limits';
import { setState } from '@/server/services/cards/card-state';
import { readSettings, saveSettings } from '@/server/services/organisation/company-settings';
import type { Actor } from '@/server/services/accounts/actor';
import { addMember } from '@/server/services/accounts/members';
import { readAudit } from '@/server/services/accounts/read-audit';
import { openCard } from '@/server/services/cards/open-card';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { person, published } from './dressed';
import { ask, clock, pageAt } from './full-card';
import { newActor, useDatabase } from './place';

useDatabase();

test('what an organisation gives to begin with: the language of new cards, and the text of cards that are not shown', async () => {
  const [actor, other] = [await newActor(clock), await newActor(clock)];
  const before = (await person(actor)).cardId;
  const settings = await readSettings(actor);
  const defaults = {
    ...settings.defaults,
    languages: ['cy', 'en'],
    texts: { resting: 'Back in <spring>.', retired: 'Ask the switchboard.' },
  };
  expect(await saveSettings(actor, { ...settings, defaults }, clock)).toMatchObject({ defaults });
  const { cardId } = await person(actor, 'Corin Hathersage');
  expect((await openCard(actor, cardId)).language).toBe('cy');
  // What was there before, and what others have, stays as it was.
  expect((await openCard(actor, before)).language).toBeNull();
  expect((await openCard(other, (await person(other)).cardId)).language).toBeNull();
  await published(actor, cardId, 'gives-texts');
  const welsh = await pageAt('/c/gives-texts');
  expect(welsh).toContain('<html lang="cy"');
  // We have no words in Welsh: ours are English, and say so (WCAG 2.2, 3.1.2).
  expect(welsh).toContain('<dt lang="en">Phone</dt>');
  const rest = (state: 'resting' | 'retired', notice: string) =>
    setState(actor, cardId, { state, notice, instead: null }, clock);
  const read = async () => String((await ask('/c/gives-texts')).body);
  await rest('resting', '');
  expect(await read()).toContain('Back in &#60;spring&#62;.');
  await rest('retired', '');
  expect(await read()).toContain('Ask the switchboard.');
  await rest('resting', 'Gone fishing');
  expect(await read()).toContain('Gone fishing');
  expect(await read()).not.toContain('spring');
});

test('defaults that a screen would not let through are refused, whoever sends them', () => {
  const reads = (given: object) => CompanyDefaultsSchema.safeParse(given).success;
  expect(reads({})).toBe(true);
  expect(reads({ patterns: [{ name: 'Chat', address: 'https://chat.example/{number}' }] })).toBe(true);
  for (const given of [
    { languages: ['no language'] },
    { patterns: [{ name: 'Chat', address: 'javascript:alert({name})' }] },
    { patterns: [{ name: '', address: 'https://chat.example/{number}' }] },
    {
      patterns: Array.from({ length: LIMITS.patterns + 1 }, () => ({ name: 'A', address: 'https://a.example/{name}' })),
    },
    { texts: { resting: 'x'.repeat(LIMITS.text + 1) } },
  ])
    expect([given, reads(given)]).toEqual([given, false]);
});

test('what somebody changes in one go is one line of the audit trail; another member, a pause or a long go begin another', async () => {
  const owner = await newActor(clock);
  const colleague = {
    name: 'Bram Aukes',
    email: 'bram@tarnhope.example',
    role: 'administrator' as const,
    ownRecord: null,
    password: 'a first password of theirs',
  };
  const { recordId } = await person(owner, 'Corin Hathersage');
  const member = { ...owner, userId: (await addMember(owner, colleague, clock)).id };
  const begun = clock.now();
  const save = async (actor: Actor, minute: number) => {
    clock.set(new Date(begun + minute * 60_000).toISOString());
    const { version, body } = await openRecord(actor, recordId);
    await saveRecord(actor, recordId, version, body, clock);
  };
  for (const minute of [0, 1, 9]) await save(owner, minute);
  await save(member, 10);
  for (const minute of [11, 30, 38, 46, 54, 62, 70, 78, 86, 94]) await save(owner, minute);
  const filter = { act: 'record.changed' as const, userId: null, subjectId: recordId, before: null };
  const { lines } = await readAudit(owner, filter);
  expect(lines.reverse().map(({ data }) => data.times ?? 1)).toEqual([3, 1, 1, 8, 1]);
  expect(lines[0]!.data.since).toBe(new Date(begun).toISOString().replace('.000', ''));
  clock.set(new Date(begun).toISOString());
});
