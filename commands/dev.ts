import { run as demo } from './demo';

/** As the demo, rebuilding while you edit. */
export const run = (args: string[]): Promise<number> => demo(args, true);
