import { CompanyDefaultsSchema } from '@/core/company';
import { LIMITS } from '@/core/limits';
import { setState } from '@/server/services/cards/card-state';
import { readSettings, saveSettings } from '@/server/services/organisation/company-settings';
import { openCard } from '@/server/services/cards/open-card';
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
