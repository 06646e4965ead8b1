'use client';
import { useEffect, useMemo, useState } from 'react';
import { compose, firstLines, type TypeOf } from '@/core/card';
import type { PersonRecord } from '@/core/record';
import { specimenPage } from '@/core/specimen';
import { PageView } from '@/ui/card/page-view';

/** The card as it grows under the hand: the real page of what is typed so far, ticked as a first card is. */
export function GrowingCard({ record, country }: { record: PersonRecord; country: string }) {
  // The numbering plan tells a land line from a mobile, and so what starts ticked; it is large and comes once there is a number.
  const [typeOf, setTypeOf] = useState<{ of: TypeOf } | null>(null);
  const wantsPlan = typeOf === null && record.details.some(({ kind }) => kind === 'phone');
  useEffect(() => {
    if (wantsPlan) void import('@/core/record/line-type').then(({ lineTypeOf }) => setTypeOf({ of: lineTypeOf }));
  }, [wantsPlan]);
  const html = useMemo(() => {
    const composed = compose(record, firstLines(record, { isPrivate: false }, typeOf?.of), country);
    return composed.ok ? specimenPage(composed.value, { language: null, now: 0, drawn: null, house: null }) : null;
  }, [record, country, typeOf]);
  return html ? <PageView html={html} /> : null;
}
