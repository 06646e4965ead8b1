export { addDays, dayOf, daysBetween, instantAt, isTimeZone, startOfDay, wallTime } from './days';
export { judge, type RequestFacts } from './judge';
export { EVENT_KINDS, summarise, type EventKind, type Figures, type ResponseEvent, type Summary } from './summarise';
