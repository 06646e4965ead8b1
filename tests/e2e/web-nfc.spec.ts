import { chromium, expect, test } from '@playwright/test';
import { tagRecords, webRecords, type InTag } from '@/core/ndef';

/**
 * The browser's own check of what it is given to write (W3C Web NFC, `NDEFReader.write`): it looks at the records before it asks for the permission, which
 * nobody gives here. So what it would write is refused as not allowed, and what it would not as a wrong argument.
 */
const link = 'https://heath.example/h/ABCDEFGH';
const CONTENTS: Record<string, InTag> = {
  'a link': { link },
  'a number': { link: 'tel:+442079460182' },
  'a text message': { link: 'sms:+442079460182?body=On%20my%20way' },
  'a contact after it': { link, contact: 'BEGIN:VCARD\r\nVERSION:3.0\r\nFN:Jörg\r\nEND:VCARD\r\n' },
  'words after it': { link, words: { text: 'مرحبا', language: 'ar' } },
};

type Reader = new () => { write: (message: object, options: object) => Promise<void> };
type Sent = Record<string, unknown> & { bytes?: number[] };

test('the records of each thing that a tap does pass the browser’s own check, and others do not', async () => {
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--enable-blink-features=WebNFC'],
  });
  try {
    const page = await browser.newPage();
    await page.route('http://127.0.0.1:9/', (route) =>
      route.fulfill({ contentType: 'text/html', body: '<!doctype html>' }),
    );
    await page.goto('http://127.0.0.1:9/');
    const written = (records: Sent[]) =>
      page.evaluate(async (sent) => {
        const { NDEFReader } = globalThis as unknown as { NDEFReader: Reader };
        const given = sent.map(({ bytes, ...each }) => (bytes ? { ...each, data: new Uint8Array(bytes) } : each));
        const failed = (error: unknown) => (error as Error).name;
        return new NDEFReader().write({ records: given }, { overwrite: true }).then(() => 'written', failed);
      }, records);
    for (const [what, content] of Object.entries(CONTENTS)) {
      const records = webRecords(tagRecords(content)).map(({ data, ...rest }): Sent => {
        return typeof data === 'string' ? { ...rest, data } : { ...rest, bytes: [...data] };
      });
      expect([what, records.length > 0, await written(records)]).toEqual([what, true, 'NotAllowedError']);
    }
    expect(await written([])).toBe('TypeError');
    expect(await written([{ recordType: 'text', mediaType: 'text/vcard', data: 'x' }])).toBe('TypeError');
  } finally {
    await browser.close();
  }
});
