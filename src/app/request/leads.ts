import { z } from 'zod';
import { LEAD_STATES } from '@/core/replies';
import { ALL_LEADS, type LeadsAsked } from '@/server/services/replies/list-leads';

const Id = z.uuid();
const At = z.iso.datetime();

/** What a list of leads is narrowed to, as an address says it; what cannot be read narrows nothing. */
export function leadsAsked(get: (name: string) => string | null): LeadsAsked {
  const id = (raw: string | null) => (Id.safeParse(raw).success ? raw : null);
  const [at, last] = [get('at'), id(get('after'))];
  return {
    ...ALL_LEADS,
    whose: get('whose') === 'all' ? 'all' : 'mine',
    state: LEAD_STATES.find((state) => state === get('state')) ?? null,
    topic: get('topic')?.slice(0, 120) || null,
    occasion: id(get('occasion')),
    due: get('due') === '1',
    words: (get('q') ?? '').slice(0, 200),
    after: last && At.safeParse(at).success ? { at: at!, id: last } : null,
  };
}
