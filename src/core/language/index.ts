export {
  directionOf,
  languageName,
  OUR_LANGUAGES,
  ourLanguage,
  pickLanguage,
  readLanguage,
  scriptOf,
  type Language,
  type OurLanguage,
} from './language';
export { figure } from './figure';
export { longDayIn } from './long-day';
export { plural } from './plural';
