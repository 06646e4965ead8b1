export { ACTS, SUBJECT_KINDS, type Act, type SubjectKind } from './acts';
export { checkPassword, isSameOrigin, PASSWORD_LENGTH } from './credentials';
export { ACTIONS, mayReach, reachOf, ROLES, type Action, type Asker, type Reach, type Role } from './permissions';
