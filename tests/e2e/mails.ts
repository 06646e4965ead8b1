import { expect, type Page } from '@playwright/test';
import { CONTROL } from './ports';

export type Mail = { to: string[]; subject: string; text: string; html: string };
/** The latest mail to an address with a subject, once it has arrived. */
export async function mailTo(address: string, subject: string | RegExp): Promise<Mail> {
  let found: Mail | undefined;
  await expect
    .poll(async () => {
      const mails = (await (await fetch(`http://127.0.0.1:${CONTROL}/mails`)).json()) as Mail[];
      found = mails.findLast(
        (mail) =>
          mail.to.includes(address) &&
          (typeof subject === 'string' ? mail.subject === subject : subject.test(mail.subject)),
      );
      return found !== undefined;
    })
    .toBe(true);
  return found!;
}

/** Confirms the address that somebody signed up with, by the link of the mail that arrived. */
export async function confirmAddress(page: Page, email: string): Promise<void> {
  await page.goto(/http:\/\/\S+\/confirm\/\S+/.exec((await mailTo(email, 'Confirm your address')).text)![0]);
  await page.getByRole('button', { name: 'Yes, it is mine' }).click();
  await expect(page.getByRole('heading', { name: 'Your address is confirmed' })).toBeVisible();
}
