// Sends what it is told again and again, several at a time, until its time is over; then tells the statuses that came back. A process of
// its own that gives way to every other: a real attacker's machine is not the one that is attacked.
import { readFileSync } from 'node:fs';
import { setPriority } from 'node:os';

const { address, session, sent, ms, atOnce } = JSON.parse(process.argv[2]);
try {
  setPriority(19);
} catch {
  // Then it does not give way, and what is measured is more than it should be.
}
const requests = sent.map(({ method, path, type, body }) => ({
  url: `${address}${path}`,
  method,
  headers: { ...session, ...(type ? { 'Content-Type': type } : {}) },
  ...(body ? { body: readFileSync(body) } : {}),
}));
// Work that many wait for may take its time on a busy machine: its own deadline is longer than anybody's patience here.
const PATIENCE_MS = 150_000;
const until = performance.now() + ms;
const statuses = {};
const count = (status) => (statuses[status] = (statuses[status] ?? 0) + 1);

async function one(turn) {
  for (let at = turn; performance.now() < until; at += 1) {
    const { url, ...init } = requests[at % requests.length];
    try {
      const answer = await fetch(url, { ...init, signal: AbortSignal.timeout(PATIENCE_MS) });
      await answer.arrayBuffer();
      count(answer.status);
    } catch {
      count('none');
    }
  }
}

await Promise.all(Array.from({ length: atOnce }, (_, turn) => one(turn)));
process.stdout.write(JSON.stringify(statuses));
