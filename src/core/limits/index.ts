export { LIMITS, RATES, STATED_LIMITS, windowOf, type LimitName, type RateKind } from './limits';
