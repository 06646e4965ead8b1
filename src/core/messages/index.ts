export { directionOf, LANGUAGE_NAMES, LANGUAGES, pickLanguage, type Language } from './language';
export { kindIn, labelIn, RECIPIENT_TEXTS, say, type RecipientText } from './recipient';
