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
export { plural } from './plural';
