import type { Metadata } from 'next';
import { headers } from 'next/headers';
import { redirect } from 'next/navigation';
import { toldProblem } from '@/app/request/entry';
import { currentActor } from '@/app/request/session';
import { ENTRY } from '@/core/words';
import { settings } from '@/server/env';
import { timeZones } from '@/server/services/organisation/time-zones';
import { NoSignUp } from '@/ui/entry/no-sign-up';
import { SignUp, type Guess } from '@/ui/entry/sign-up';
import { countryNames } from '@/ui/studio/countries';

export const metadata: Metadata = { title: ENTRY.newAccount };

/** Country and time zone that a browser's languages speak of (`de-CH, en;q=0.8`); it stands in the form to be set otherwise. */
function guessFrom(languages: string, zones: string[]): Guess {
  const country = /\b[a-z]{2,3}-([A-Z]{2})\b/.exec(languages)?.[1] ?? 'GB';
  const { timeZones: own } = new Intl.Locale('en', { region: country }) as { timeZones?: string[] };
  return { country, timeZone: own?.find((zone) => zones.includes(zone)) ?? 'Europe/London' };
}

export default async function SignUpPage({ searchParams }: { searchParams: Promise<{ problem?: string }> }) {
  if (await currentActor()) redirect('/');
  if (settings().SIGN_UP !== 'open') return <NoSignUp />;
  const zones = await timeZones();
  const guess = guessFrom((await headers()).get('accept-language') ?? '', zones);
  return (
    <SignUp guess={guess} countries={countryNames()} zones={zones} told={toldProblem((await searchParams).problem)} />
  );
}
