/** Ports of 127.0.0.1 that the browser tests use. */
export const APPLICATION = 4690;
export const CONTROL = 4691;
export const DATABASE_DOOR = 4692;
export const NEXT_ALONE = 4693;
