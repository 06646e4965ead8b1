export { addDays, dayOf, instantAt, isTimeZone, startOfDay, wallTime } from './days';
export { judge, type RequestFacts } from './judge';
export { summarise, type EventKind, type Figures, type ResponseEvent, type Summary } from './summarise';
