export { nearOf, type Near } from './near';
export { leaveOutFor, liveTag, readTagContent, TAG_CONTENTS, tagContent, tagOf, type TagContent } from './in-tag';
export {
  CONTACT_FORMS,
  contactText,
  contentText,
  contentValue,
  isLive,
  LINE_ACTS,
  linesFor,
  WIFI_KINDS,
  type ContactForm,
  type Content,
  type LineAct,
} from './contents';
