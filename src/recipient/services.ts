import type { Clock } from '@/server/clock';
import type { EventRow } from '@/server/db/response/events';
import type { Recorded } from '@/server/intake/record-event';
import type { PublishedCard } from '@/server/services/publishing/load-published';
import type { ReplyServices } from './reply';
import type { Asked } from './request';

/** What answering needs from the services; tests pass their own. */
export type Services = {
  clock: Clock;
  load: (key: Exclude<Asked['key'], { preview: string }>) => Promise<PublishedCard | null>;
  preview: (secret: string) => Promise<PublishedCard | null>;
  version: (cardId: string) => Promise<number | undefined>;
  record: (row: EventRow) => Promise<Recorded>;
  /** Takes a scan as the test that its hand-out waits for; answers whether it did. */
  test?: (card: PublishedCard) => Promise<boolean>;
  /** Takes what a recipient tells; absent where a test has no need of it. */
  replies?: Omit<ReplyServices, 'clock'>;
  visitor: (
    who: { organisationId: string; timeZone: string; address: string; userAgent: string },
    at: number,
  ) => string | Promise<string>;
};
