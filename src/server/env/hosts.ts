import { settings } from './settings';

/** Where an organisation's cards and codes are: its own host where the settings give it one, else the common one. */
export function publicUrlOf(organisation: string): string {
  const { CARD_HOSTS, PUBLIC_URL } = settings();
  const own = Object.entries(CARD_HOSTS).find(([, of]) => of === organisation);
  return own ? `${new URL(PUBLIC_URL).protocol}//${own[0]}` : PUBLIC_URL;
}

/** The organisation whose own host this is, or null: there every other's cards are not found. */
export const organisationOfHost = (host: string): string | null => settings().CARD_HOSTS[host.toLowerCase()] ?? null;
