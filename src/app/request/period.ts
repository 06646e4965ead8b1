import { PERIODS, type PeriodDays } from '@/core/response';

/** The period of a report from its address; a month when it is none of those on offer. */
export const readPeriod = (raw: string | undefined): PeriodDays => PERIODS.find((days) => String(days) === raw) ?? 30;
