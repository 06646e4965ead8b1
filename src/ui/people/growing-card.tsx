'use client';
import { useMemo } from 'react';
import { compose, firstLines } from '@/core/card';
import type { PersonRecord } from '@/core/record';
import { specimenPage } from '@/core/specimen';
import { PageView } from '@/ui/card/page-view';

/** The card as it grows under the hand: the real page of what is typed so far, ticked as a first card is. */
export function GrowingCard({ record, country }: { record: PersonRecord; country: string }) {
  const html = useMemo(() => {
    const composed = compose(record, firstLines(record, { isPrivate: false }), country);
    return composed.ok ? specimenPage(composed.value, { language: null, now: 0, drawn: null, house: null }) : null;
  }, [record, country]);
  return html ? <PageView html={html} /> : null;
}
