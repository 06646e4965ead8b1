export { ACTS, type Act, type SubjectKind } from './acts';
export {
  checkPassword,
  deviceOf,
  FRESH_MS,
  isSameOrigin,
  networkOf,
  PASSWORD_LENGTH,
  type Device,
} from './credentials';
export {
  ACTIONS,
  mayReach,
  reachOf,
  recordsWithin,
  ROLES,
  type Action,
  type Asker,
  type Reach,
  type Role,
} from './permissions';
