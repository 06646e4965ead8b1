export { ATTEMPTS, checkPassword, isSameOrigin, PASSWORD_LENGTH } from './credentials';
