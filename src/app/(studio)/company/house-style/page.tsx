import type { Metadata } from 'next';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { NO_HOUSE } from '@/core/house';
import { liveCodeText } from '@/core/qr';
import { HOUSE } from '@/core/words';
import { publicUrlOf } from '@/server/env';
import { readHouseProofs } from '@/server/services/house/house-proofs';
import { houseToEdit } from '@/server/services/house/house-style';
import { CompanyHead } from '@/ui/company/company-head';
import { HouseStyleForm } from '@/ui/house/house-style';

export const metadata: Metadata = { title: HOUSE.turn };

export default async function HouseStylePage() {
  const actor = await actorOrSignIn();
  const { number, style, versions } = await shownOrNotFound(() => houseToEdit(actor));
  const proofs = await readHouseProofs(actor);
  const { name, country, timeZone } = actor.organisation;
  return (
    <>
      <CompanyHead actor={actor} turn="house-style" />
      <HouseStyleForm
        number={number}
        style={style ?? NO_HOUSE}
        versions={versions}
        proofs={proofs}
        organisation={name}
        country={country}
        zone={timeZone}
        sampleCode={liveCodeText(`${publicUrlOf(actor.organisationId)}/h/00000000`)}
      />
    </>
  );
}
