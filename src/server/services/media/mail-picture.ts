import { compute } from '@/server/compute';
import type { PictureRow } from '@/server/db/media/pictures';
import { files } from '@/server/files';
import { formOf } from './kept-forms';

/** A picture that mails show: the hash that names it, that of its size for pages, and that of its form for mails where it was made by then. */
export type MailedPicture = { hash: string; page: string; mail: string | null };

/** A picture of an organisation as mails name it. */
export const mailed = ({ hash, page_hash: page, mail_png: mail }: PictureRow): MailedPicture => ({ hash, page, mail });

const PNG = 0x89;

/**
 * A picture as mails show it by day and by night: one that may be transparent on a plate where it would vanish, PNG; any other as pages
 * show it. Null where the store has lost it. Errors: STORE_UNAVAILABLE, TOO_BUSY, TOO_LABORIOUS.
 */
export async function mailPicture(organisationId: string, { hash, page, mail }: MailedPicture): Promise<Buffer | null> {
  const bytes = await files().get(page);
  if (bytes?.[0] !== PNG) return bytes;
  return formOf({ organisationId, picture: hash, form: 'mail_png', known: mail }, () =>
    compute('mail picture', { bytes }, { of: organisationId }),
  );
}
