/** The clock of the application; tests pass their own. Instants are milliseconds since 1970, UTC. */
export type Clock = { now: () => number };

export const systemClock: Clock = { now: () => Date.now() };
