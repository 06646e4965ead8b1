import { expect, test } from '@playwright/test';
import { ENGINE_TAKES } from '../../src/core/proof/signature';
import { confirmAddress, mailTo } from './mails';
import { importContact, publish, signUp } from './person';

test('a signature is made, sent to oneself and read with pictures off, by a word processor’s engine and as text; installed in a handful of presses', async ({
  page,
  context,
  browser,
}) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  const email = `signs-${Date.now()}@heath.example`;
  await signUp(page, 'Ilse Varrow', email);
  await importContact(page, 'phone-export-3.vcf');
  // The picture goes along where somebody ticks it.
  await page.getByRole('button', { name: 'Add signature column' }).click();
  await page.getByRole('checkbox', { name: 'Photo on signature' }).check();
  await expect(page.getByText('With pictures blocked')).toBeVisible();
  await publish(page, `signs-${Date.now()}`);
  await page.getByRole('link', { name: /Hand-outs/ }).click();
  const began = Date.now();
  await page.getByRole('button', { name: 'Mail signature', exact: true }).click();
  const frame = page.frameLocator('iframe');
  await expect(frame.getByText('Müller-Lind').first()).toBeVisible();
  // What is shown is what is copied, for fields that take formatted text and for those that do not.
  await page.getByRole('button', { name: 'Copy formatted' }).click();
  await expect(page.getByText('Copied. Paste it')).toBeVisible();
  expect(Date.now() - began).toBeLessThan(180_000);
  const copied = await page.evaluate(async () => {
    const [item] = await navigator.clipboard.read();
    const text = async (type: string) => (await item!.getType(type)).text();
    return { html: await text('text/html'), text: await text('text/plain') };
  });
  const lines = copied.text.split('\n').slice(0, -1);
  expect(lines.length).toBeGreaterThan(3);

  // A stranger's browser, which knows nothing of the studio: linked pictures load, and with all blocked every line is there.
  const away = await browser.newPage();
  await away.setContent(copied.html);
  const width = () =>
    away
      .locator('img')
      .first()
      .evaluate((each: HTMLImageElement) => each.naturalWidth);
  await expect.poll(width).toBeGreaterThan(0);
  const values = lines.flatMap((line) => line.split(/, |: /));
  const visible = async () => {
    const shown = (await away.locator('body').innerText()).replace(/\s+/g, ' ');
    return values.filter((value) => !shown.includes(value.replace(/\s+/g, ' ')));
  };
  expect(await visible()).toEqual([]);
  await away.evaluate(
    (takes) => {
      document.querySelectorAll('img').forEach((image) => image.remove());
      for (const element of document.querySelectorAll<HTMLElement>('[style]'))
        for (const property of [...element.style])
          if (!takes.some((each) => property.startsWith(each))) element.style.removeProperty(property);
    },
    [...ENGINE_TAKES],
  );
  expect(await visible()).toEqual([]);
  const box = await away.locator('table').first().boundingBox();
  expect(box!.width).toBeLessThan(600);

  await expect(page.getByRole('button', { name: 'Send me a test mail' })).toBeDisabled();
  await confirmAddress(page, email);
  await page.goBack();
  await page.reload();
  await page.getByRole('checkbox', { name: 'Pictures' }).first().uncheck();
  await expect(page.frameLocator('iframe').locator('img')).toHaveCount(0);
  await page.getByRole('button', { name: 'Send me a test mail' }).click();
  await expect(page.getByText('A mail is on its way to you.')).toBeVisible();
  const mail = await mailTo(email, 'Your signature, to look at');
  for (const line of lines) expect(mail.text).toContain(line);
  expect(mail.html).not.toContain('<img');
  // The card itself goes to somebody met today, in one's own words, and is counted as a hand-out of its own.
  await page.getByRole('link', { name: 'Hand-outs' }).first().click();
  await page.getByRole('button', { name: 'Send the card' }).click();
  await page.getByLabel('Their name').fill('Tobias Hythe');
  await page.getByLabel('Their e-mail').fill('nobody');
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  await expect(page.getByText('This is not an e-mail address.')).toBeVisible();
  const tobias = `tobias-${Date.now()}@hythe.example`;
  await page.getByLabel('Their e-mail').fill(tobias);
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  await expect(page.getByText(`On its way to ${tobias}.`)).toBeVisible();
  await page.keyboard.press('Escape');
  const message = await mailTo(tobias, 'Dr. Jörg Aksel Müller-Lind');
  expect(message.text).toContain('Hello Tobias,');
  await page.goto(/http:\/\/\S+\/h\/\w+/.exec(message.text)![0]);
  await expect(page.getByRole('heading', { name: /Müller-Lind/ })).toBeVisible();
  await page.goBack();
  await page.reload();
  await expect(
    page.getByRole('row', { name: /sent by mail/ }).getByRole('cell', { name: '1', exact: true }),
  ).toBeVisible();
  await page.getByRole('link', { name: 'Mail signature' }).click();
  // The short one for phones, the text, and the dark ground, are a press away.
  await page.getByRole('button', { name: 'Short, for phones' }).click();
  await expect(page.locator('pre')).toContainText('/h/');
  await page.getByRole('button', { name: 'Dark' }).click();
  await expect(page.locator('iframe.night')).toBeVisible();
});

test('a hand-out is put to rest with a note, brought back, and made once more; its two addresses do what they say', async ({
  page,
  request,
}) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await publish(page, `rests-${Date.now()}`);
  await page.getByRole('link', { name: /Hand-outs/ }).click();
  const open = async () => {
    await page
      .getByRole('button', { name: /^Change / })
      .first()
      .click();
    return page.getByRole('dialog');
  };
  const dialog = await open();
  const addresses = dialog.locator('.address .mono');
  await expect(addresses).toHaveCount(2);
  const [card, contact] = await addresses.allInnerTexts();
  expect((await request.get(card!)).headers()['content-type']).toContain('text/html');
  expect((await request.get(contact!)).headers()['content-type']).toContain('text/vcard');
  await dialog.getByLabel(/^It rests/).check();
  await dialog.getByLabel('Note that is shown').fill('Ask at the helmet desk.');
  await dialog.getByRole('button', { name: 'Keep' }).nth(1).click();
  await expect(page.getByRole('cell', { name: /resting/ })).toBeVisible();
  expect(await (await request.get(card!)).text()).toContain('Ask at the helmet desk.');
  await (await open()).getByLabel('It opens the card').check();
  await page.getByRole('dialog').getByRole('button', { name: 'Keep' }).nth(1).click();
  await expect(page.getByRole('cell', { name: /resting/ })).toBeHidden();
  expect(await (await request.get(card!)).text()).not.toContain('Ask at the helmet desk.');
  // The dialog before is gone: what is pressed is not closed with it.
  await expect(page.getByRole('dialog')).toBeHidden();
  await (await open()).getByRole('button', { name: 'Make another like it' }).click();
  await expect(page.getByRole('link', { name: /\(2\)$/ })).toBeVisible();
});
