import type { Clock } from '@/server/clock';
import { log } from '@/server/log';
import type { MailDoor } from '@/server/mail';
import { sendDueMail } from '@/server/services/mail/send-mail';

/** The outbox is looked at this often. */
const LOOK_MS = 500;
/** So many mails are on their way at a time: a server that is slow with one does not keep the others. */
const LANES = 4;
/** Whoever ends this waits so long for mails that are on their way; they would be sent once more. */
const ENDING_MS = 5_000;

/** Sends what is due again and again; answers with how to end that. */
export function sendMail(door: MailDoor, clock: Clock): () => Promise<void> {
  let ending = false;
  let under: Promise<void> | null = null;
  const lane = () =>
    sendDueMail(door, clock, () => !ending).then(
      () => undefined,
      (error: unknown) => log.fault(error, {}, 'mail is not sent for the moment'),
    );
  const timer = setInterval(() => {
    under ??= Promise.all(Array.from({ length: LANES }, lane)).then(() => {
      under = null;
    });
  }, LOOK_MS);
  return async () => {
    ending = true;
    clearInterval(timer);
    await Promise.race([under, new Promise((resolve) => setTimeout(resolve, ENDING_MS))]);
  };
}
