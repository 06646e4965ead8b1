import { randomBytes } from 'node:crypto';
import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { contactStream } from '@/server/services/records/contact-stream';

const COUNT = 300;
/** Contacts that cannot be made smaller, as photos cannot. */
function source() {
  const made = { count: 0, ended: false };
  async function* contacts() {
    try {
      for (; made.count < COUNT;) {
        made.count += 1;
        // As long as a row takes to come from the database.
        await new Promise((resume) => setImmediate(resume));
        yield { fileName: 'guest.vcf', text: randomBytes(20_000).toString('base64') };
      }
    } finally {
      made.ended = true;
    }
  }
  return { made, contacts: contacts() };
}
const rest = () => new Promise((resume) => setTimeout(resume, 150));

test.each([true, false])(
  'a slow reader holds the making of contacts up, and one that turns away ends it (ZIP: %s)',
  async (zip) => {
    const { made, contacts } = source();
    const reader = contactStream(contacts, zip).getReader();
    await reader.read();
    await rest();
    const ahead = made.count;
    expect(ahead).toBeLessThan(40);
    await rest();
    expect(made.count).toBe(ahead);
    await reader.cancel();
    await rest();
    expect([made.ended, made.count < 60]).toEqual([true, true]);
  },
);

test('a ZIP of everybody is whole (unzip), two of one name told apart', async () => {
  const { contacts } = source();
  const parts: Uint8Array[] = [];
  for await (const part of contactStream(contacts, true) as unknown as AsyncIterable<Uint8Array>) parts.push(part);
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'heathland-zip-')), 'contacts.zip');
  writeFileSync(file, Buffer.concat(parts));
  const read = execFileSync('/usr/bin/python3', [
    '-c',
    'import sys, zipfile; z = zipfile.ZipFile(sys.argv[1]); print(z.testzip(), len(z.namelist()), z.namelist()[1])',
    file,
  ]);
  expect(String(read).trim()).toBe(`None ${COUNT} guest-2.vcf`);
});
