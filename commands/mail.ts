import path from 'node:path';
import { settings } from '../src/server/env';
import { freshMessageId, keptMails, mailDoor, startTray, writeMail, type KeptMail } from '../src/server/mail';
import { HOME } from './place';
import { say, Stop } from './stop';

const USE =
  'Say ./heathland mail [--json], mail tray [PORT], or mail try E-MAIL. The tray’s folder is MAIL_TRAY, or .heathland/mail.';
/** Where the demo's tray keeps what arrives, unless another place is named. */
export const trayFolder = (): string => process.env.MAIL_TRAY ?? path.join(HOME, 'mail');

export type OwnTray = {
  /** What an application is told, so that its mail goes there. */
  environment: Record<'MAIL_SERVER' | 'MAIL_FROM' | 'MAIL_TRAY', string>;
  kept: () => Promise<KeptMail[]>;
  stop: () => Promise<void>;
};

/** A tray of an application's own: nothing that it sends leaves this machine. */
export async function ownTray(folder: string): Promise<OwnTray> {
  const { port, stop } = await startTray(folder, 0);
  const environment = { MAIL_SERVER: `smtp://127.0.0.1:${port}`, MAIL_FROM: 'cards@heath.example', MAIL_TRAY: folder };
  return { environment, kept: () => keptMails(folder), stop };
}

/** What the tray kept, the tray itself, or one mail to try the door by. */
export async function run(args: string[]): Promise<number> {
  const [word, ...more] = args;
  if (word === 'tray' && more.length <= 1) return tray(Number(more[0] ?? 2525));
  if (word === 'try' && more.length === 1) return tryOne(more[0]!);
  if (args.length > 1 || (word !== undefined && word !== '--json')) throw new Stop(USE);
  const mails = await keptMails(trayFolder());
  if (word === '--json') for (const mail of mails) say(JSON.stringify(toldOf(mail)));
  else if (mails.length === 0) say(`No mail was kept in ${trayFolder()}.`);
  else for (const { at, to, subject } of mails) say(`${at}  ${to.join(', ')}  ${subject}`);
  return 0;
}

const toldOf = ({ attachments, ...mail }: KeptMail) => ({
  ...mail,
  attachments: attachments.map(({ name, type, bytes }) => ({ name, type, base64: bytes.toString('base64') })),
});

async function tray(port: number): Promise<number> {
  if (!Number.isInteger(port) || port < 0 || port > 65_535) throw new Stop('A port is a number from 0 to 65535.');
  const { port: taken, stop } = await startTray(trayFolder(), port);
  say(`The tray takes mail at smtp://127.0.0.1:${taken} and keeps it in ${trayFolder()}. Ctrl-C ends it.`);
  await new Promise<void>((resolve) => ['SIGINT', 'SIGTERM'].forEach((sign) => process.once(sign, () => resolve())));
  await stop();
  return 0;
}

async function tryOne(to: string): Promise<number> {
  const door = mailDoor();
  const from = settings().MAIL_FROM;
  if (!door || !from) throw new Stop('MAIL_SERVER and MAIL_FROM are not set: no mail leaves this installation.');
  const raw = await writeMail({
    ...{ id: freshMessageId(from), date: new Date(), from: { name: 'Heathland', address: from } },
    ...{ to: { name: '', address: to }, subject: 'A mail to try the way' },
    text: 'Mail leaves this installation of Heathland and arrives here.\n',
  });
  await door.send({ from, to, raw });
  say('The mail server took it. Look whether it arrives, and in which folder.');
  return 0;
}
