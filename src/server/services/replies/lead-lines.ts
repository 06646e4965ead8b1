import { firstLines, PAGE_AND_FILE } from '@/core/card';
import type { PersonRecord } from '@/core/record';
import { lineTypeOf } from '@/core/record/line-type';

/** All that is known of a lead goes along when its owner refers them, until they say otherwise: it was told to be used. */
export const linesOfLead = (body: PersonRecord) =>
  firstLines(body, { isPrivate: false }, lineTypeOf).map((line) => ({ ...line, ticks: PAGE_AND_FILE }));
