import type { CompanyDefaults } from '@/core/company';
import { orRefuse, Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { LEGAL, type LegalLinks } from '@/core/page';
import { cleanLine, cleanText, getCountries, readLink } from '@/core/record';
import { isTimeZone } from '@/core/response';
import type { Clock } from '@/server/clock';
import { organisation, updateOrganisation } from '@/server/db/accounts/accounts';
import { touchAllCards } from '@/server/db/cards/directory';
import { violatedCheck } from '@/server/db/jobs/failures';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { defaultsOf } from './company-defaults';

/** What an organisation is called, where it is, what it links to below each of its pages, and what its members begin with. */
export type CompanySettings = {
  name: string;
  country: string;
  timeZone: string;
  links: LegalLinks;
  defaults: CompanyDefaults;
};

/** The settings as they are. Error: NOT_ALLOWED. */
export async function readSettings(actor: Actor): Promise<CompanySettings> {
  authorise(actor, 'settings.write');
  const row = await inTenant(actor, (tx) => organisation(tx, actor.organisationId));
  const { name, country, time_zone: timeZone, links } = row!;
  return { name, country, timeZone, links, defaults: defaultsOf(row!) };
}

/**
 * Changes them; pages show new links at once. The country is how numbers without one are read from then on, and the time zone is that
 * of the days in Response. Errors: NOT_ALLOWED, NAME_MISSING, INPUT, TIME_ZONE_UNKNOWN, LINK_UNREADABLE, LINK_SCHEME_REFUSED.
 */
export async function saveSettings(actor: Actor, input: CompanySettings, clock: Clock): Promise<CompanySettings> {
  authorise(actor, 'settings.write');
  const name = cleanLine(input.name).text.slice(0, LIMITS.name);
  if (!name) throw new Refusal({ code: 'NAME_MISSING' });
  const { country, timeZone } = input;
  if (!getCountries().some((each) => each === country)) throw new Refusal({ code: 'INPUT', field: 'country' });
  if (!isTimeZone(timeZone)) throw new Refusal({ code: 'TIME_ZONE_UNKNOWN' });
  const links: LegalLinks = {};
  for (const which of LEGAL) {
    const typed = input.links[which]?.trim();
    if (!typed) continue;
    const { url } = orRefuse(readLink(typed));
    if (!/^https?:/.test(url)) throw new Refusal({ code: 'LINK_UNREADABLE' });
    links[which] = url;
  }
  const { texts, ask } = input.defaults;
  const defaults: CompanyDefaults = {
    ...input.defaults,
    texts: { resting: cleanText(texts.resting).text, retired: cleanText(texts.retired).text },
    ask: cleanLine(ask).text,
  };
  try {
    await inTenant(actor, async (tx) => {
      await updateOrganisation(tx, actor.organisationId, {
        name,
        country,
        time_zone: timeZone,
        links: JSON.stringify(links),
        defaults: JSON.stringify(defaults),
      });
      await touchAllCards(tx, actor.organisationId);
      await recordAudit(tx, actor, 'settings.changed', { kind: 'organisation', id: actor.organisationId }, clock);
    });
  } catch (error) {
    if (violatedCheck(error) === 'organisations_time_zone_known') throw new Refusal({ code: 'TIME_ZONE_UNKNOWN' });
    throw error;
  }
  return { name, country, timeZone, links, defaults };
}
