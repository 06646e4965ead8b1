'use client';
import { useEffect, useMemo, useState } from 'react';
import { compose, firstLines, type TypeOf } from '@/core/card';
import { applyHouseStyle, type HouseStyle } from '@/core/house';
import { FIRST_LOOK, LOOK_PARTS } from '@/core/look';
import type { PersonRecord } from '@/core/record';
import { specimenPage } from '@/core/specimen';
import { PageView } from '@/ui/card/specimen/page-view';
import { call } from '@/ui/studio/call';

/** The house style that a first card wears, where there is one. */
function useHouse(): HouseStyle | null {
  const [house, setHouse] = useState<HouseStyle | null>(null);
  useEffect(() => {
    void call<{ style: HouseStyle | null }>('/api/house').then((answer) => answer.ok && setHouse(answer.value.style));
  }, []);
  return house;
}

/** The card as it grows under the hand: the real page of what is typed so far, ticked and dressed as a first card is. */
export function GrowingCard({ record, country }: { record: PersonRecord; country: string }) {
  const house = useHouse();
  // The numbering plan tells a land line from a mobile, and so what starts ticked; it is large and comes once there is a number.
  const [typeOf, setTypeOf] = useState<{ of: TypeOf } | null>(null);
  const wantsPlan = typeOf === null && record.details.some(({ kind }) => kind === 'phone');
  useEffect(() => {
    if (wantsPlan) void import('@/core/record/line-type').then(({ lineTypeOf }) => setTypeOf({ of: lineTypeOf }));
  }, [wantsPlan]);
  const page = useMemo(() => {
    const composed = compose(record, firstLines(record, { isPrivate: false }, typeOf?.of), country);
    if (!composed.ok) return null;
    const look = { ...(house?.look ?? FIRST_LOOK), follows: [...LOOK_PARTS] };
    return specimenPage(applyHouseStyle({ ...composed.value, look }, house), {
      language: null,
      now: 0,
      drawn: null,
      house,
    });
  }, [record, country, typeOf, house]);
  return page ? <PageView page={page} /> : null;
}
