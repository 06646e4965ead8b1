import { hasEnded, type JobState } from '../../src/core/jobs';
import { type Newcomer } from './account';
import { countOf, pause } from './database';
import type { Figure } from './figure';

type Plan = { people: number; published: number };
type Job = { state: JobState; done: number };

/** One job title put in the place of another for everybody of an organisation whose cards are out: looked at, changed and published. */
export async function measureChange(databaseUrl: string, who: Newcomer, organisation: string): Promise<Figure[]> {
  const { ids } = await who.ask<{ ids: string[] }>('GET', '/api/people?ids');
  const change = { of: 'title', from: 'Rope inspector', to: 'Rope master' };
  const looking = performance.now();
  const plan = await who.ask<Plan>('POST', '/api/changes/preview', { records: ids, change });
  const looked = (performance.now() - looking) / 1_000;
  const changing = performance.now();
  const { job } = await who.ask<{ job: string }>('POST', '/api/changes', { records: ids, change });
  for (;;) {
    const now = await who.ask<Job>('GET', `/api/jobs/${job}`);
    if (hasEnded(now.state)) break;
    await pause(250);
  }
  const changed = (performance.now() - changing) / 1_000;
  const out = await countOf(
    databaseUrl,
    `SELECT count(*) FROM cards c WHERE c.organisation_id = $1 AND (SELECT r.composition::text FROM revisions r WHERE r.card_id = c.id ORDER BY r.number DESC LIMIT 1) LIKE '%Rope master%'`,
    [organisation],
  );
  const of = `${plan.people.toLocaleString('en-GB')} people, ${plan.published.toLocaleString('en-GB')} cards out`;
  return [
    {
      name: 'looking at a change of many',
      value: looked,
      unit: 's',
      must: { atMost: 30 },
      beside: `${of}, one job title (our own limit)`,
    },
    {
      name: 'a change of many, published',
      value: changed,
      unit: 's',
      must: { atMost: (150 * plan.people) / 5_000 },
      beside: `${of}, each proven and published anew, with progress; within 150 s for 5,000`,
    },
    {
      name: 'cards that say it after that',
      value: out,
      unit: 'cards',
      must: { atLeast: plan.published },
      beside: 'by their latest revision',
    },
  ];
}
