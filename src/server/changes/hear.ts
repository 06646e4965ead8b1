import pg from 'pg';
import { applicationRole, settings } from '@/server/env';
import { log } from '@/server/log';

/** The channel that the database tells ids of changed cards, records and jobs on; migration 0020 has its triggers. */
const CHANNEL = 'heathland_changes';
/** A connection that was lost is opened again after so long, in milliseconds; */
const AGAIN_MS = 1_000;
/** one that stands still is found out by a question this often, */
const ASK_MS = 15_000;
/** which must be answered within. */
const ANSWER_MS = 5_000;

type Ear = { hearers: Map<string, Set<() => void>>; works: boolean; close: (() => Promise<void>) | null };

/** A framework that bundles this file several times over still listens once. */
const PLACE = Symbol.for('heathland.changes');
const here = globalThis as { [PLACE]?: Ear };
const ear = (): Ear => (here[PLACE] ??= { hearers: new Map(), works: false, close: null });

const tellAll = ({ hearers }: Ear): void => {
  for (const set of [...hearers.values()]) for (const hear of [...set]) hear();
};

/** Opens the one connection of this process, and opens it again whenever it is lost, until it is closed. */
function open(own: Ear): () => Promise<void> {
  let closed = false;
  let client: pg.Client | null = null;
  let timer: NodeJS.Timeout | undefined;
  let lost = () => {};

  async function connect() {
    const { DATABASE_URL, SESSION_SECRET } = settings();
    const next = new pg.Client({
      connectionString: applicationRole(DATABASE_URL, SESSION_SECRET).url,
      connectionTimeoutMillis: ANSWER_MS,
      query_timeout: ANSWER_MS,
      keepAlive: true,
    });
    client = next;
    let over = false;
    lost = () => {
      if (over) return;
      over = true;
      clearInterval(asking);
      if (own.works && !closed) log.info({}, 'changes are asked for until the database tells them again');
      own.works = false;
      void next.end().catch(() => undefined);
      // Whoever waits for a change looks for it from now on.
      tellAll(own);
      if (!closed) timer = setTimeout(() => void connect(), AGAIN_MS);
    };
    next.on('error', lost);
    next.on('end', lost);
    next.on('notification', ({ payload }) => own.hearers.get(payload ?? '')?.forEach((hear) => hear()));
    const asking = setInterval(() => void next.query('SELECT 1').catch(lost), ASK_MS);
    asking.unref();
    try {
      await next.connect();
      await next.query(`LISTEN ${CHANNEL}`);
      own.works = true;
      // What was changed before this connection stood is looked for once.
      tellAll(own);
    } catch {
      lost();
    }
  }

  void connect();
  return async () => {
    closed = true;
    clearTimeout(timer);
    lost();
    await client?.end().catch(() => undefined);
  };
}

export type Changes = {
  /** Keeps when one of the things has changed since this was asked the last time, or after so many milliseconds. */
  next: (ms: number) => Promise<void>;
  /** Keeps the promise asked for last at once. */
  wake: () => void;
  stop: () => void;
};

/** Hears of changes of the things with these ids, of whichever process; where the database cannot tell them, `next` only waits. */
export function hearChanges(ids: readonly string[]): Changes {
  const own = ear();
  own.close ??= open(own);
  // What changed before this was asked for is looked for once.
  let heard = true;
  let resume: (() => void) | null = null;
  const hear = () => {
    heard = true;
    resume?.();
  };
  for (const id of ids) {
    const set = own.hearers.get(id) ?? new Set();
    own.hearers.set(id, set.add(hear));
  }
  return {
    wake: hear,
    async next(ms) {
      if (!heard)
        await new Promise<void>((kept) => {
          const timer = setTimeout(kept, ms);
          resume = () => {
            clearTimeout(timer);
            kept();
          };
        });
      [heard, resume] = [false, null];
    },
    stop() {
      for (const id of ids) {
        const set = own.hearers.get(id);
        set?.delete(hear);
        if (set?.size === 0) own.hearers.delete(id);
      }
    },
  };
}

/** Whether the database tells changes just now. */
export const changesAreTold = (): boolean => ear().works;

/** Closes the connection of this process; the next who wants to hear opens it again. */
export async function closeChanges(): Promise<void> {
  const own = ear();
  const { close } = own;
  own.close = null;
  await close?.();
}
