// Asks as a recipient every 25 ms and as somebody signed in every 100 ms until its standard input ends; then tells the slowest answer
// of each in milliseconds, and when it was asked for (`since`, milliseconds since 1970). A process of its own, so that what it measures is not the attacker's own waiting.
import { Agent, request } from 'node:http';

const { recipient, signedIn, cookie } = JSON.parse(process.argv[2]);
const agent = new Agent({ keepAlive: true, maxSockets: 20 });
const slowest = { recipient: 0, signedIn: 0, since: { recipient: 0, signedIn: 0 } };
function took(who, ms) {
  if (ms <= slowest[who]) return;
  slowest[who] = ms;
  slowest.since[who] = Date.now() - ms;
}
const AGENT =
  'Mozilla/5.0 (Linux; Android 15; Pixel 9) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/131.0.0.0 Mobile Safari/537.36';

function ask(url, who, headers) {
  const began = performance.now();
  return new Promise((resolve) => {
    const asked = request(url, { agent, headers: { 'User-Agent': AGENT, ...headers } }, (answer) => {
      answer.resume();
      answer.once('end', () => {
        // Whoever is refused has waited for ever.
        const ms = answer.statusCode === 200 ? performance.now() - began : 60_000;
        took(who, ms);
        resolve();
      });
    });
    asked.once('error', () => {
      took(who, 60_000);
      resolve();
    });
    asked.end();
  });
}

// Connections are open and everything is warm before it counts.
await Promise.all([ask(recipient, 'recipient', {}), ask(signedIn, 'signedIn', { Cookie: cookie })]);
await Promise.all([ask(recipient, 'recipient', {}), ask(signedIn, 'signedIn', { Cookie: cookie })]);
slowest.recipient = slowest.signedIn = 0;
process.stdout.write('looking on\n');
const open = new Set();
const every = (ms, work) => setInterval(() => open.add(work().finally(() => open.delete(work))), ms);
const timers = [
  every(25, () => ask(recipient, 'recipient', {})),
  every(100, () => ask(signedIn, 'signedIn', { Cookie: cookie })),
];
process.stdin.resume();
process.stdin.once('end', async () => {
  timers.forEach(clearInterval);
  await Promise.race([Promise.all(open), new Promise((resolve) => setTimeout(resolve, 30_000))]);
  process.stdout.write(`${JSON.stringify(slowest)}\n`);
  process.exit(0);
});
