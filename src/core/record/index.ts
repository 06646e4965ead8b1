export { createMatcher, differencesOf, firstChoice, withChosen, type Difference, type Matcher } from './compare';
export { readEmail, readLink, shownLink } from './link';
export { splitName, writtenName } from './name';
export { getCountries, internationalForm, nationalForm, readPhone, telUri, type PhoneNumber } from './phone';
export { readDetail, recognise, type TypedKind } from './read-detail';
export * from './record';
export { defaultLabel, shownValue } from './shown';
export { cleanLine, cleanText } from './text';
