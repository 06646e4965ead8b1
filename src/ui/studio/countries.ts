import { getCountries } from '@/core/record';

/** Countries by name, in the order of the alphabet. */
function countryNames(): { code: string; name: string }[] {
  const names = new Intl.DisplayNames('en', { type: 'region' });
  return getCountries()
    .map((code) => ({ code, name: names.of(code) ?? code }))
    .sort((a, b) => a.name.localeCompare(b.name, 'en'));
}

export const COUNTRIES = countryNames();
