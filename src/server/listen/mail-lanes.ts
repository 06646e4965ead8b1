import { Refusal } from '@/core/errors';
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
/** So many that found no server one after the other are a server that is away: it is then asked with one mail at a time, less and less often. */
const AWAY_AFTER = 5;
const LONGEST_REST_MS = 5_000;

/** Sends what is due again and again; answers with how to end that. */
export function sendMail(door: MailDoor, clock: Clock): () => Promise<void> {
  let ending = false;
  let under: Promise<void> | null = null;
  /** Mails in a row that found no server; until when nothing is tried. */
  let [missed, restsUntil] = [0, 0];
  const watched: MailDoor = {
    greet: () => door.greet(),
    send: async (mail) => {
      try {
        await door.send(mail);
        missed = 0;
      } catch (error) {
        missed = error instanceof Refusal && error.problem.code === 'MAIL_UNAVAILABLE' ? missed + 1 : 0;
        throw error;
      }
    },
  };
  const lane = (mayTake: () => boolean) =>
    sendDueMail(watched, clock, () => !ending && mayTake()).then(
      () => undefined,
      (error: unknown) => log.fault(error, {}, 'mail is not sent for the moment'),
    );
  async function look(): Promise<void> {
    const isAway = () => missed >= AWAY_AFTER;
    if (isAway()) {
      let asked = 0;
      await lane(() => !isAway() || asked++ === 0);
    }
    if (!isAway()) await Promise.all(Array.from({ length: LANES }, () => lane(() => !isAway())));
    if (isAway()) restsUntil = performance.now() + Math.min(LONGEST_REST_MS, LOOK_MS * 2 ** (missed - AWAY_AFTER + 1));
  }
  const timer = setInterval(() => {
    if (under || performance.now() < restsUntil) return;
    under = look().then(() => {
      under = null;
    });
  }, LOOK_MS);
  return async () => {
    ending = true;
    clearInterval(timer);
    let late: NodeJS.Timeout | undefined;
    await Promise.race([under, new Promise((resolve) => (late = setTimeout(resolve, ENDING_MS)))]);
    clearTimeout(late);
  };
}
