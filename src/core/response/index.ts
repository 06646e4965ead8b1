export { addDays, dayOf, instantAt, isTimeZone, startOfDay, wallTime } from './days';
export { judge, type RequestFacts } from './judge';
export { PERIODS, type PeriodDays } from './period';
export { gather, less, merge, mostViewed, ofCardAlone, summarise, type Period, type Summary } from './summarise';
export { createTally, noFigures, type DayFigures, type EventKind, type Figures, type ResponseEvent } from './tally';
