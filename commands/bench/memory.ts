import { execFileSync } from 'node:child_process';

/** Resident memory of each process of an application, its first one and all that it started, in megabytes, with what it runs. */
export function residentOf(pid: number): { megabytes: number; program: string }[] {
  const lines = execFileSync('ps', ['-e', '-ww', '-o', 'pid=,ppid=,rss=,args='], { encoding: 'utf8' })
    .trim()
    .split('\n')
    .map((line) => /^\s*(\d+)\s+(\d+)\s+(\d+)\s+(.*)$/.exec(line)!)
    .map(([, own, parent, rss, args]) => ({ own: Number(own), parent: Number(parent), rss: Number(rss), args: args! }));
  const family = new Set([pid]);
  for (let grown = -1; grown !== family.size;) {
    grown = family.size;
    for (const { own, parent } of lines) if (family.has(parent)) family.add(own);
  }
  return lines
    .filter(({ own }) => family.has(own))
    .map(({ rss, args }) => ({
      megabytes: rss / 1_024,
      program: /([\w-]+)\.m?js/.exec(args)?.[1] ?? args.slice(0, 30),
    }));
}
