import { readReply, typedOf, type TypedReply } from '@/core/replies';
import { addDays, dayOf } from '@/core/response';
import { systemClock, type Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { loadPublished } from '@/server/services/publishing/load-published';
import { changeLead } from '@/server/services/replies/keep-lead';
import { ALL_LEADS, listLeads } from '@/server/services/replies/list-leads';
import { followUp, noteLead } from '@/server/services/replies/notes';
import { takeDown } from '@/server/services/replies/take-reply';

const DAY_MS = 86_400_000;
const daysAgo = (days: number): Clock => ({ now: () => systemClock.now() - days * DAY_MS });

/** Who left their details on Odile's card, and how many days ago. */
const REPLIES: [days: number, typed: Partial<TypedReply>][] = [
  [
    9,
    {
      name: 'Hanneke Oud',
      reach: 'hanneke@oudfilm.example',
      firm: 'Oud Film',
      note: 'Curlew and lapwing for forty minutes of dusk. When could you come?',
    },
  ],
  [6, { name: 'Tobias Fenwright', reach: '020 7946 0415', note: 'We met at the hide. Which recorder was that?' }],
  [
    3,
    {
      name: 'Marisol Quint',
      reach: 'marisol@quint.example',
      firm: 'Quint Radio',
      note: 'A feature about silence: send me the reed bed.',
    },
  ],
  [1, { name: 'Ambrose Lyle', reach: 'ambrose@lyle.example', note: '' }],
];

/** Replies as recipients would have sent them, and what Odile has noted since. */
export async function addReplies(odile: Actor): Promise<void> {
  for (const [days, typed] of REPLIES) {
    const clock = daysAgo(days);
    const card = await loadPublished({ address: 'odile-clients' }, clock);
    const read = readReply({ ...typedOf(() => null), ...typed }, { country: 'GB', question: '' });
    if (!card || !read.ok) throw new Error('The demo’s replies can be read.');
    const signs = { hidden: '', took: 20_000, sinceView: null };
    await takeDown(card, { told: read.told, email: read.email, language: 'en', from: `demo ${days}`, signs }, clock);
  }
  const { leads } = await listLeads(odile, ALL_LEADS, systemClock);
  const id = (name: string) => leads.find((lead) => lead.name === name)!.id;
  const today = dayOf(systemClock.now(), odile.organisation.timeZone);
  const toDo = (due: string, what: string) => ({ followUp: null, due, what, done: false });
  await changeLead(odile, id('Hanneke Oud'), { state: 'in touch', topics: ['waders', 'film'] }, daysAgo(8));
  const call = 'Wants two dusks in May, needs a quote that names the travel apart.';
  await noteLead(
    odile,
    id('Hanneke Oud'),
    { entry: null, kind: 'call', at: null, place: '', text: call, private: false },
    daysAgo(8),
  );
  await followUp(odile, id('Hanneke Oud'), toDo(today, 'Send the quote for two dusks'), daysAgo(8));
  const met = 'At the hide by the sluice; carries a parabola of his own.';
  await noteLead(
    odile,
    id('Tobias Fenwright'),
    { entry: null, kind: 'meeting', at: null, place: 'Reed bed', text: met, private: true },
    daysAgo(5),
  );
  await followUp(odile, id('Marisol Quint'), toDo(addDays(today, -1), 'Cut the reed bed to three minutes'), daysAgo(2));
}
