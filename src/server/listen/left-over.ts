import { readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';

/** Folders and files of ours among the machine's temporary ones: each names the process that it belongs to. */
const OURS = /^heathland-(?:studio|compute|along)-(\d+)-/;

const lives = (pid: number): boolean => {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
};

/** Removes what processes that were killed have left behind; it may hold what somebody sent. */
export function removeLeftOver(): void {
  for (const name of readdirSync(tmpdir())) {
    const pid = OURS.exec(name)?.[1];
    if (pid === undefined || lives(Number(pid))) continue;
    try {
      rmSync(path.join(tmpdir(), name), { recursive: true, force: true });
    } catch {
      // Another user's.
    }
  }
}
