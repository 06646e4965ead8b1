export {
  decodeMessage,
  encodeMessage,
  inTagMemory,
  messageInMemory,
  TAG_ROOM,
  tagMemory,
  tagRecords,
  type InTag,
  type TagRoom,
} from './message';
export { mediaRecord, seenRecord, uriRecord, type NdefRecord, type SeenRecord } from './records';
export { saysTheSame, seenByWeb, webRecords, type ReadByWeb, type WebRecord } from './web';
