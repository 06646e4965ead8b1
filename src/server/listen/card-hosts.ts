import { isOrganisationId, settings, tellCardHosts } from '@/server/env';
import { organisationsOf } from '@/server/db/schema/short-names';
import { log } from '@/server/log';

/**
 * Finds the organisations that CARD_HOSTS names by their short names, for this process and for those that it starts. A host whose
 * organisation is not known answers nothing, and the log says so: one organisation that went does not keep all others from starting.
 */
export async function findCardHosts(): Promise<void> {
  const { CARD_HOSTS, DATABASE_URL } = settings();
  const named = Object.entries(CARD_HOSTS).filter(([, name]) => !isOrganisationId(name));
  const found = await organisationsOf(
    DATABASE_URL,
    named.map(([, name]) => name),
  );
  for (const [host, name] of named) {
    const id = found.get(name);
    if (id) CARD_HOSTS[host] = id;
    else delete CARD_HOSTS[host];
    if (!id) log.warn({ host }, 'CARD_HOSTS: no organisation’s addresses begin so, and this host answers nothing');
  }
  tellCardHosts();
}
