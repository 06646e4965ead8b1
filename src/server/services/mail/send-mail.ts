import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import type { Clock } from '@/server/clock';
import { forgetMail, mailIsGivenUp, mailIsLate, mailIsSent, takeMail, type TakenMail } from '@/server/db/mail/outbox';
import { outsideTenants } from '@/server/db/pool';
import { log } from '@/server/log';
import { writtenMail, type MailDoor } from '@/server/mail';
import { metrics } from '@/server/metrics';
import { faultAt, faultIsOver } from '@/server/services/jobs/faults';

/** A mail is somebody's for so long, in seconds; longer than any talk with a server may take, which {@link DEADLINE_MS} ends. */
const LEASE_S = 150;
const DEADLINE_MS = 120_000;
/** The first wait after a server that was away, and the longest one; each is twice the one before. RFC 5321, 4.5.4.1 asks for half an hour in the end. */
const FIRST_WAIT_MS = 5_000;
const LONGEST_WAIT_MS = 1_800_000;

/** When a mail is tried again that could not be sent for the `tries`-th time, in milliseconds from then. */
export const waitAfter = (tries: number): number =>
  Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** Math.min(20, tries - 1));

const inTime = async (sending: Promise<void>): Promise<void> => {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(new Refusal({ code: 'MAIL_UNAVAILABLE' })), DEADLINE_MS);
  });
  // It may fail once nobody waits for it any more.
  sending.catch(() => undefined);
  await Promise.race([sending, late]).finally(() => clearTimeout(timer));
};

/** Sends one mail that was taken, and writes down what became of it. What went wrong is kept as a code: what a server says may name somebody. */
async function sendTaken(mail: TakenMail, door: MailDoor, clock: Clock): Promise<void> {
  const now = () => new Date(clock.now());
  const { id, organisation_id: organisationId, kind, tries, sender: from, recipient: to, message: raw } = mail;
  try {
    // After it was sent and before that was written down, this process may die: it is sent once more, with the same Message-ID.
    await inTime(writtenMail(raw).then((written) => door.send({ from, to, raw: written })));
  } catch (error) {
    const problem = error instanceof Refusal ? error.problem : { code: 'UNEXPECTED' as const };
    const passes = problem.code === 'MAIL_UNAVAILABLE' || problem.code === 'UNEXPECTED';
    if (problem.code === 'UNEXPECTED') log.fault(error, { mail: id }, 'a mail could not be sent');
    const again = clock.now() + waitAfter(tries);
    metrics().mails.inc({ kind, outcome: passes ? 'late' : 'refused' });
    if (passes && again < mail.until.getTime()) {
      await outsideTenants((db) => mailIsLate(db, mail, new Date(again), problem.code));
      return;
    }
    await outsideTenants((db) => mailIsGivenUp(db, mail, now(), problem.code));
    await faultAt({ organisationId, sweep: 'mail', subject: kind, error }, clock);
    return;
  }
  await outsideTenants((db) => mailIsSent(db, mail, now()));
  metrics().mails.inc({ kind, outcome: 'sent' });
  if (tries > 1) await faultIsOver(organisationId, 'mail', kind);
}

/** Sends what is due, one mail after the other, until nothing is; answers with how many it took. Several may do so at a time, here and elsewhere. */
export async function sendDueMail(door: MailDoor, clock: Clock, goOn: () => boolean = () => true): Promise<number> {
  let taken = 0;
  while (goOn()) {
    const mail = await outsideTenants((db) => takeMail(db, new Date(clock.now()), LEASE_S));
    if (!mail) break;
    await sendTaken(mail, door, clock);
    taken += 1;
  }
  return taken;
}

export const forgetOldMail = ({ now }: Clock): Promise<unknown> =>
  outsideTenants((db) => forgetMail(db, new Date(now() - LIMITS.mailDays * 86_400_000), new Date(now())));
