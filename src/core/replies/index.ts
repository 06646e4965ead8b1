export { judgeReply, type LooksWrong, type ReplySigns } from './judge';
export {
  HAND_KINDS,
  LEAD_STATES,
  type CameBy,
  type EntryKind,
  type HandKind,
  type LeadState,
  type ListedLead,
  type ShownEntry,
  type ShownFollowUp,
  type ShownLead,
  type ShownReply,
} from './lead';
export {
  contentOf,
  readReply,
  recordOfReply,
  ToldSchema,
  typedOf,
  type ReplyField,
  type Told,
  type TypedReply,
  type WrongField,
} from './reply';
export { isConfirmingName, withToldInstead } from './held';
