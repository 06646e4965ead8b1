import { readFile } from 'node:fs/promises';
import { handOverProgram } from '@/server/env';

/** The script of the page that holds a card up, or of the worker that keeps it, as it was built. */
export const handOverScript = (which: 'page' | 'worker'): Promise<string> => readFile(handOverProgram(which), 'utf8');
