import type { Problem } from '@/core/errors';

/** Does something with a lead; the screen then shows what it is. */
export type Act = (json: { act: string } & Record<string, unknown>) => Promise<Problem | null>;
