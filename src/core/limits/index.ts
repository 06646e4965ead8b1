export { LIMITS, RATES, windowOf, type LimitName, type RateKind } from './limits';
export { LIMIT_REASONS } from './reasons';
