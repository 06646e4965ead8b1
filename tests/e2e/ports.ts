/** Two files of tests run beside each other, each against an application of its own: the lane that this process belongs to, from 0. */
export const LANES = 2;
export const LANE = Number(process.env.HEATHLAND_LANE ?? process.env.TEST_PARALLEL_INDEX ?? 0);

/** Ports of 127.0.0.1 that the browser tests use in a lane, and its database. */
export const portsOf = (lane: number) => {
  const first = 4_690 - 10 * lane;
  return { application: first, control: first + 1, databaseDoor: first + 2, nextAlone: first + 3 };
};
export const {
  application: APPLICATION,
  control: CONTROL,
  databaseDoor: DATABASE_DOOR,
  nextAlone: NEXT_ALONE,
} = portsOf(LANE);
export const ORIGIN = `http://127.0.0.1:${APPLICATION}`;
export const DATABASE = `heathland_e2e_${LANE}`;
