import { readFileSync } from 'node:fs';
import { Agent, request } from 'node:https';
import { pause } from '../database';

export type Answer = { status: number; text: string; cookies: string[] };

/** A client of the machine's own https, which trusts the certificate that the guide made. */
export function client(certificate: string) {
  const agent = new Agent({ keepAlive: true, maxSockets: 16, ca: readFileSync(certificate) });
  return (
    url: string,
    { method = 'GET', headers = {}, body }: { method?: string; headers?: object; body?: object } = {},
  ) =>
    new Promise<Answer>((resolve, reject) => {
      const sent = body && JSON.stringify(body);
      const json = sent ? { 'Content-Type': 'application/json', 'Content-Length': Buffer.byteLength(sent) } : {};
      const asked = request(url, { method, agent, headers: { ...headers, ...json } }, (answer) => {
        let text = '';
        answer.on('data', (chunk) => (text += String(chunk)));
        answer.once('end', () =>
          resolve({
            status: answer.statusCode!,
            text,
            cookies: (answer.headers['set-cookie'] ?? []).map((cookie) => cookie.split(';')[0]!),
          }),
        );
        answer.once('error', reject);
      });
      asked.once('error', reject);
      asked.end(sent);
    });
}

export type Ask = ReturnType<typeof client>;

/** Does something over and over until told to end; answers how often it was done, and what went wrong by kind. */
export function over(and: () => Promise<string | null>, restMs: number) {
  let going = true;
  const told = { done: 0, wrong: {} as Record<string, number> };
  const ended = (async () => {
    while (going) {
      const wrong = await and().catch((error: NodeJS.ErrnoException) => error.code ?? error.message);
      told.done += 1;
      if (wrong) told.wrong[wrong] = (told.wrong[wrong] ?? 0) + 1;
      await pause(restMs);
    }
  })();
  return async () => {
    going = false;
    await ended;
    return told;
  };
}

/** The scripts and styles that a page of the studio names. */
export const scriptsOf = (html: string): string[] => [
  ...new Set([...html.matchAll(/\/_next\/static\/[^"'\\ )]+?\.(?:js|css|woff2)/g)].map(([url]) => url)),
];
