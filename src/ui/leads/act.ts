import type { Problem } from '@/core/errors';

/** Does something with a lead; the screen then shows what it is. */
export type Act = (json: { act: string } & Record<string, unknown>) => Promise<Problem | null>;

/** Takes something of a lead away; `again` is what puts it back. */
export type TakeAway = (json: Parameters<Act>[0], again: Parameters<Act>[0]) => Promise<void>;
