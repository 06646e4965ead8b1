import type { ShownMail } from '@/core/shown';
import { ownMails } from '@/server/db/mail/outbox';
import { inTenant } from '@/server/db/pool';
import { settings } from '@/server/env';
import { latestHeads, readKept } from '@/server/mail';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';

/** So many of the latest mails are looked through, and so many shown. */
const LOOKED_AT = 500;
const MOST_SHOWN = 30;
/** Letters of a text and of HTML that are shown. */
const MOST_LETTERS = 200_000;

/** Whether the studio shows a tray. */
export const trayIsShown = (): boolean => settings().MAIL_TRAY !== undefined;

/** The latest mails of the tray that this member caused or that are about their account, the newest first: links of others let in whoever reads them. */
export async function readTray(actor: Actor): Promise<ShownMail[]> {
  authorise(actor, 'session.manage');
  const folder = settings().MAIL_TRAY;
  if (!folder) return [];
  const heads = await latestHeads(folder, LOOKED_AT);
  const idOf = ({ id }: { id: string }) => id.split('@')[0]!;
  const ids = heads.map(idOf).filter((id) => /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(id));
  const own = new Set(await inTenant(actor, (tx) => ownMails(tx, actor.userId, ids)));
  const shown = heads.filter((head) => own.has(idOf(head))).slice(0, MOST_SHOWN);
  return Promise.all(
    shown.map(async (head) => {
      const { at, to, subject, text, html, headers, attachments } = await readKept(folder, head);
      return {
        ...{ id: head.name, at, to, subject, headers: Object.entries(headers) },
        ...{ text: text.slice(0, MOST_LETTERS), html: html.slice(0, MOST_LETTERS) },
        attachments: attachments.map(({ name, type, bytes }) => ({ name, type, bytes: bytes.length })),
      };
    }),
  );
}
