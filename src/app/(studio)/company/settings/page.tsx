import type { Metadata } from 'next';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { reachOf } from '@/core/access';
import { COMPANY } from '@/core/words';
import { readSettings } from '@/server/services/organisation/company-settings';
import { timeZones } from '@/server/services/organisation/time-zones';
import { CompanyHead } from '@/ui/company/company-head';
import { Settings } from '@/ui/company/settings';
import { TakeAlong } from '@/ui/company/take-along';
import { countryNames } from '@/ui/studio/countries';

export const metadata: Metadata = { title: COMPANY.turn.settings };

export default async function SettingsPage() {
  const actor = await actorOrSignIn();
  const settings = await shownOrNotFound(() => readSettings(actor));
  return (
    <>
      <CompanyHead actor={actor} turn="settings" />
      <Settings settings={settings} countries={countryNames()} zones={await timeZones()} alone={actor.alone} />
      {reachOf(actor.role, 'organisation.export') === 'all' && <TakeAlong alone={actor.alone} />}
    </>
  );
}
