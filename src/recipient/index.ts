import { systemClock } from '@/server/clock';
import { loadReferral } from '@/server/services/contacts/load-referral';
import { loadPublished, publishedVersion } from '@/server/services/publishing/load-published';
import { loadPreview } from '@/server/services/publishing/preview-card';
import { takeDown } from '@/server/services/replies/take-reply';
import { takeAsTest } from '@/server/services/hand-outs/test-scan';
import { recordEvent } from '@/server/intake/record-event';
import { visitorHash } from '@/server/intake/visitor-hash';
import { createAnswerer } from './answer';

export { createAnswerer } from './answer';
export type { Services } from './services';
export { answerFont } from './fonts';
export { deliverFilm } from './block-file';
export { isPublicPath, longestBody } from './asked';
export type { RecipientAnswer, RecipientRequest } from './request';

/** The real services, shared by the listener and the route handlers. */
export const answerRecipient = createAnswerer({
  clock: systemClock,
  load: loadPublished,
  preview: async (secret) => (await loadPreview(secret)) ?? loadReferral(secret, systemClock),
  version: publishedVersion,
  record: recordEvent,
  test: ({ organisationId, handOutId, cardId }) =>
    handOutId ? takeAsTest(organisationId, handOutId, cardId, systemClock) : Promise.resolve(false),
  visitor: visitorHash,
  replies: { take: takeDown },
});
