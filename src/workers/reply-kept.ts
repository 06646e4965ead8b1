/** What a phone keeps of a reply: the form as it would be sent, whether that was tried, and when (milliseconds, UTC). */
export type Kept = { body: string; unsent: boolean; at: number };

export type Outcome = { is: 'sent'; where: string } | { is: 'kept' } | { is: 'refused' };

type Ways = {
  now: () => number;
  read: () => string | null;
  write: (text: string | null) => void;
  post: (body: string) => Promise<Pick<Response, 'status' | 'redirected' | 'url'>>;
};

/** What was typed and never sent is forgotten after so long, in milliseconds: the phone may be another's by then. */
const KEEPS_MS = 7 * 86_400_000;

/** Keeps a reply until it was sent, and tells what became of a try; storage that is closed keeps nothing and breaks nothing. */
export function createOutbound({ now, read, write, post }: Ways) {
  const store = (kept: Kept | null) => {
    try {
      write(kept && JSON.stringify(kept));
    } catch {
      // A private window may keep nothing.
    }
  };
  function kept(): Kept | null {
    try {
      const found = JSON.parse(read() ?? 'null') as Kept | null;
      return found && typeof found.body === 'string' && now() - found.at < KEEPS_MS ? found : null;
    } catch {
      return null;
    }
  }
  return {
    kept,
    keep: (body: string) => store({ body, unsent: false, at: now() }),
    async send(body: string): Promise<Outcome> {
      store({ body, unsent: true, at: now() });
      const answer = await post(body).catch(() => null);
      // A server that is away is a network that is lost.
      if (!answer || answer.status >= 500) return { is: 'kept' };
      if (answer.redirected) {
        store(null);
        return { is: 'sent', where: answer.url };
      }
      store({ body, unsent: false, at: now() });
      return { is: 'refused' };
    },
  };
}
