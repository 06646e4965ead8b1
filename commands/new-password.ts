import { randomInt } from 'node:crypto';

/** Letters and digits that nobody takes for one another. */
const CLEAR = 'abcdefghjkmnpqrstuvwxyz23456789';

/** A first password of 79 bits that can be read out on the telephone. */
export const newPassword = (): string =>
  Array.from({ length: 4 }, () => Array.from({ length: 4 }, () => CLEAR[randomInt(CLEAR.length)]).join('')).join('-');
