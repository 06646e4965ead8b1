import { getCountries } from '@/core/record';

export type Country = { code: string; name: string };

/** Countries by name, in the order of the alphabet. Made on the server: another platform may call one of them otherwise. */
export function countryNames(): Country[] {
  const names = new Intl.DisplayNames('en', { type: 'region' });
  return getCountries()
    .map((code) => ({ code, name: names.of(code) ?? code }))
    .sort((a, b) => a.name.localeCompare(b.name, 'en'));
}
