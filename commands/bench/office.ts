import { addressLine, addressOf } from '../../src/core/house';
import { type Newcomer } from './account';
import { rowsOf } from './database';
import type { Figure } from './figure';

const AT_ONCE = 8;
const officeIn = (street: string) => ({
  name: 'Bench office',
  lines: [addressLine({ ...addressOf(undefined), street, locality: 'Brackwater' }, undefined)],
});

/** An office to which everybody of an organisation belongs: how long it takes to put them there, and until a move of it is in force on every card. */
export async function measureOffice(
  address: string,
  databaseUrl: string,
  who: Newcomer,
  organisation: string,
): Promise<Figure[]> {
  const { ids } = await who.ask<{ ids: string[] }>('GET', '/api/people?ids');
  const { id } = await who.ask<{ id: string }>('POST', '/api/offices', officeIn('1 Old Yard'));
  const putting = performance.now();
  await who.ask('POST', '/api/offices/people', { office: id, records: ids });
  const put = performance.now() - putting;
  const rows = await rowsOf<{ name: string }>(
    databaseUrl,
    'SELECT name FROM directory_addresses WHERE organisation_id = $1 AND is_current',
    [organisation],
  );
  const all = async (look: (html: string) => void) => {
    const left = rows.map(({ name }) => `${address}/c/${name}`);
    const one = async () => {
      for (let url = left.pop(); url; url = left.pop()) look(await (await fetch(url)).text());
    };
    await Promise.all(Array.from({ length: AT_ONCE }, one));
  };
  let [shown, stale] = [0, 0];
  // Every card is held ready with the old address first.
  await all((html) => (shown += html.includes('1 Old Yard') ? 1 : 0));
  const moving = performance.now();
  await who.ask('PUT', `/api/offices/${id}`, { base: 1, ...officeIn('2 New Yard') });
  const moved = performance.now() - moving;
  await all((html) => (stale += html.includes('2 New Yard') ? 0 : 1));
  const of = `${shown.toLocaleString('en-GB')} published cards of ${ids.length.toLocaleString('en-GB')} people`;
  return [
    {
      name: 'putting everybody into an office',
      value: put,
      unit: 'ms',
      must: { atMost: 3_000 },
      beside: `${of}, from the request until its answer (our own limit)`,
    },
    {
      name: 'a moved office in force',
      value: moved,
      unit: 'ms',
      must: { atMost: 3_000 },
      beside: `${of}, from the request until its answer; every card was held ready with the old address before`,
    },
    {
      name: 'cards that show the old address after that',
      value: stale,
      unit: 'cards',
      must: { atMost: 0 },
      beside: `${rows.length.toLocaleString('en-GB')} pages asked for once each, ${AT_ONCE} at a time`,
    },
  ];
}
