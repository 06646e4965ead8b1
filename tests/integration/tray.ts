import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Clock } from '@/server/clock';
import { keptMails, mailDoor, startTray } from '@/server/mail';
import { sendDueMail } from '@/server/services/mail/send-mail';

/**
 * In a file that calls this before `useDatabase`, mail leaves, to a tray of its own: it stands before anything reads a setting. Answers with what sends
 * what waits, and tells what arrived of it, the oldest first.
 */
export function useTray(): (clock: Clock) => ReturnType<typeof keptMails> {
  const folder = mkdtempSync(path.join(tmpdir(), 'heathland-tray-'));
  let tray: Awaited<ReturnType<typeof startTray>>;
  beforeAll(async () => {
    tray = await startTray(folder, 0);
    const MAIL_SERVER = `smtp://127.0.0.1:${tray.port}`;
    Object.assign(process.env, { MAIL_SERVER, MAIL_FROM: 'cards@heath.example', MAIL_TRAY: folder });
  });
  afterAll(async () => {
    await tray.stop();
    rmSync(folder, { recursive: true });
  });
  return async (clock) => {
    const before = (await keptMails(folder)).length;
    await sendDueMail(mailDoor()!, clock);
    return (await keptMails(folder)).slice(before);
  };
}
