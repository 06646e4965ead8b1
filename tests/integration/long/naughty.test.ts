import blns from 'big-list-of-naughty-strings';
import ICAL from 'ical.js';
import { JSDOM } from 'jsdom';
import { readAddress } from '@/core/address';
import { TAP_SCRIPT, TYPE_SCRIPT } from '@/core/page';
import { cleanLine, cleanText, RecordSchema, type Detail } from '@/core/record';
import { createAnswerer } from '@/recipient';
import { inTenant } from '@/server/db/pool';
import { createRecord } from '@/server/services/records/create-record';
import { createCard } from '@/server/services/cards/create-card';
import { saveCard } from '@/server/services/cards/edit-card';
import { openCard } from '@/server/services/cards/open-card';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { find } from '@/server/services/cards/find';
import { makeHandOut } from '@/server/services/hand-outs/make';
import { loadPublished, publishedVersion } from '@/server/services/publishing/load-published';
import { addMember } from '@/server/services/accounts/members';
import { publishCard } from '@/server/services/publishing/publish-card';
import { recordEvent } from '@/server/intake/record-event';
import { signIn } from '@/server/services/accounts/sign-in';
import { visitorHash } from '@/server/intake/visitor-hash';
import { clockAt, newActor, useDatabase } from '../place';

useDatabase();
const clock = clockAt('2026-11-24T09:00:00Z');

/** The open Big List of Naughty Strings, and what the issue of bad input adds to it. */
const NAUGHTY: string[] = [
  ...blns,
  'x'.repeat(10_000),
  '<script>alert(1)</script>',
  'one\r\nBcc: two@evil.example',
  'one\u0000two',
  'moc.live\u202Egpj.exe',
  '\u2066isolated\u2069',
  '\ud800lone',
  '\ufffe\uffff',
];

const answer = createAnswerer({
  clock,
  load: loadPublished,
  preview: async () => null,
  version: publishedVersion,
  visitor: visitorHash,
  record: recordEvent,
});
const ask = (path: string, query = '') =>
  answer({
    method: 'GET',
    path,
    query: new URLSearchParams(query),
    header: () => 'Mozilla/5.0 Safari',
    address: '192.0.2.9',
    body: '',
  });

/** Whatever comes of it, it is done or refused in our own words: never another failure. */
async function doneOrRefused(work: Promise<unknown>): Promise<void> {
  await work.catch((error: { problem?: { code: string }; message: string }) => {
    if (!error.problem) throw error;
  });
}

test('every text of a record goes out as the very words, in page and contact file, read by other programs', async () => {
  const actor = await newActor(clock);
  const fit = [...new Set(NAUGHTY)].filter((text) => {
    const clean = cleanText(text).text;
    return clean !== '' && clean.length <= 1_000;
  });
  expect(fit.length).toBeGreaterThan(400);
  for (let from = 0; from < fit.length; from += 100) {
    const texts = fit.slice(from, from + 100);
    const { recordId, cardId } = await createRecord(actor, { name: 'Ilse Varrow', phone: '', email: '' }, clock);
    const details = texts.map((text, at): Detail => ({
      kind: 'own',
      id: `n${at}`,
      label: text.slice(0, 120),
      preferred: false,
      text,
    }));
    const body = RecordSchema.parse({ ...(await openRecord(actor, recordId)).body, details });
    await saveRecord(actor, recordId, 1, body, clock);
    const card = await openCard(actor, cardId);
    const lines = card.lines.map((line) => ({ ...line, ticks: { ...line.ticks, page: true, file: true } }));
    await saveCard(actor, cardId, { baseVersion: card.version, lines, audience: 'All' }, clock);
    // A page of a hundred such lines is heavier than one round trip; its proof says so, and so does publishing.
    const half = texts.length > 60 ? 2 : 1;
    for (let part = 0; part < half; part += 1) {
      const { version, lines: all } = await openCard(actor, cardId);
      const shown = all.map((line, at) => ({
        ...line,
        ticks: { ...line.ticks, page: at % half === part, file: true },
      }));
      await saveCard(actor, cardId, { baseVersion: version, lines: shown, audience: 'All' }, clock);
      const address = `naughty-${from}-${part}`;
      await publishCard(actor, cardId, { baseVersion: version + 1, address }, clock);
      const html = String((await ask(`/c/${address}`)).body);
      const { document } = new JSDOM(html).window;
      const said = [...document.querySelectorAll('dd')].map((dd) => dd.textContent);
      const expected = shown
        .filter((line) => line.ticks.page && line.detail !== 'name')
        .map((line) => cleanText(texts[Number(line.detail.slice(1))]!).text);
      expect(said).toEqual(expected);
      const scripts = [...document.querySelectorAll('script')];
      const run = scripts.filter(({ type }) => type !== 'application/ld+json');
      expect([TYPE_SCRIPT, TAP_SCRIPT]).toEqual(expect.arrayContaining(run.map((script) => script.textContent)));
      for (const data of scripts.filter((script) => !run.includes(script)))
        expect(JSON.parse(data.textContent!)).toMatchObject({ '@type': 'Person' });
      for (const element of document.querySelectorAll('*'))
        for (const { name } of element.attributes) expect(name.startsWith('on')).toBe(false);
      // ical.js leaves the backslash of an escaped semicolon (RFC 6350 3.4) in text; beside semicolons none are compared.
      const plain = (text: string) => text.replace(/\\+;/g, ';');
      const file = String((await ask(`/c/${address}.vcf`, 'v=4.0')).body);
      const parsed = ICAL.parse(file) as unknown as [string, [string, object, string, ...unknown[]][]];
      const note = String(parsed[1].find(([name]) => name === 'note')?.[3]);
      for (const text of texts) expect(plain(note)).toContain(plain(cleanText(text).text));
    }
  }
});

test('every field of every form takes them or refuses them in words', async () => {
  const actor = await newActor(clock);
  const { recordId, cardId } = await createRecord(
    actor,
    { name: 'Ilse Varrow', phone: '020 7946 0182', email: '' },
    clock,
  );
  await publishCard(actor, cardId, { baseVersion: 1, address: 'naughty-fields' }, clock);
  for (const [at, text] of NAUGHTY.entries()) {
    await doneOrRefused(createRecord(actor, { name: text, phone: '', email: '' }, clock));
    await doneOrRefused(createRecord(actor, { name: 'N', phone: text, email: text }, clock));
    await doneOrRefused(makeHandOut(actor, { cardId, placement: text }, clock));
    await doneOrRefused(find(actor, text));
    // Most are no addresses, which is told before anything is done.
    expect(readAddress(text)).toEqual(expect.objectContaining({ ok: expect.any(Boolean) }));
    if (at % 10 !== 0) continue;
    const open = await openCard(actor, cardId);
    await doneOrRefused(publishCard(actor, cardId, { baseVersion: open.version, address: text }, clock));
    const { version, lines } = await openCard(actor, cardId);
    const worded = lines.map((line) => ({ ...line, wording: text.slice(0, 9_000), label: text.slice(0, 100) }));
    await doneOrRefused(saveCard(actor, cardId, { baseVersion: version, lines: worded, audience: 'All' }, clock));
    await doneOrRefused(
      createCard(actor, { recordId, audience: cleanLine(text).text.slice(0, 80) || 'x', isPrivate: false }, clock),
    );
    await doneOrRefused(
      addMember(
        actor,
        { name: text, email: `n${at}@heath.example`, role: 'analyst', ownRecord: null, password: text },
        clock,
      ),
    );
    await doneOrRefused(signIn({ email: text, password: text, from: `192.0.2.${at % 250}` }, clock));
  }
  const names = await inTenant(actor.organisationId, (tx) => tx('records').select('written_name'));
  for (const { written_name } of names as { written_name: string }[])
    expect(written_name).not.toMatch(/[\u0000-\u001f\u007f-\u009f\u202a-\u202e\u2066-\u2069]/);
});
