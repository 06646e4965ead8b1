export { encodeMessage, inTagMemory, mediaRecord, TAG_ROOM, tagMessage, uriRecord } from './message';
