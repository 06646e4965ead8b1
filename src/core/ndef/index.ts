export { encodeMessage, inTagMemory, mediaRecord, TAG_ROOM, tagMemory, uriRecord } from './message';
