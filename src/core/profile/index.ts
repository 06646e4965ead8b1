export { LONGEST_PARAMETERS, readParameters } from './parameters';
export { seenElsewhere, type SeenElsewhere } from './seen';
export { PROFILE_LIMITS, profileTexts, type ProfileText } from './texts';
