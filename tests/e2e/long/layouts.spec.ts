import { expect, test } from '@playwright/test';
import { LAYOUT_NAMES } from '../../../src/core/look';
import { importContact, publish, saved, signUp, typePerson } from '../person';
import { BY_DAY, BY_NIGHT, violationsOf } from '../accessible';
import { APPLICATION } from '../ports';

const capital = (name: string) => `${name[0]!.toUpperCase()}${name.slice(1)}`;
const ORIGIN = `http://127.0.0.1:${APPLICATION}`;

/** Everything that is hard at once: 200 letters of name, no photo, no firm, twelve phones, an Arabic title beside a Latin name, one endless word. */
const NAME = 'Maximiliana Fredegunde von und zu Hohentannenberg-Oberwiesenbach '.repeat(4).slice(0, 200).trim();
const common = { label: '', preferred: false };
const details = [
  { kind: 'title', id: 't', ...common, text: 'مديرة العمليات في محطة الوادي' },
  { kind: 'pronouns', id: 'q', ...common, text: 'they/them' },
  ...Array.from({ length: 12 }, (_, at) => ({
    kind: 'phone',
    id: `p${at}`,
    ...common,
    label: at % 3 === 0 ? `Line number ${at} of the valley station, day and night` : '',
    number: `+4420794601${10 + at}`,
    uses: at === 7 ? ['emergency'] : ['work'],
  })),
  { kind: 'link', id: 'l', ...common, url: `https://tarnhope.example/${'endless'.repeat(30)}`, uses: [] },
  { kind: 'note', id: 'n', ...common, text: 'Donaudampfschifffahrtsgesellschaftskapitän'.repeat(5) },
];

test('the hardest card in every layout: each word stands there, nothing hangs over, axe finds nothing, by day and night', async ({
  page,
}) => {
  test.setTimeout(240_000);
  await signUp(page);
  await typePerson(page, 'Keld Tarnhope', '020 7946 0182');
  const cardId = page.url().split('/').at(-1)!.split('?')[0]!;
  const ask = async (method: 'PUT' | 'POST', path: string, data: object) => {
    const answer = await page.request.fetch(ORIGIN + path, { method, headers: { Origin: ORIGIN }, data });
    expect([path, answer.status()]).toEqual([path, 200]);
  };
  const now = async () =>
    (await (await page.request.get(`${ORIGIN}/api/cards/${cardId}`)).json()) as {
      version: number;
      recordVersion: number;
      audience: string;
      look: object;
      lines: { detail: string; ticks: object }[];
    };
  await page.goto('/people');
  const recordId = (await page.locator('.person-name a').getAttribute('href'))!.split('/').at(-1)!;
  await ask('PUT', `/api/records/${recordId}`, {
    baseVersion: (await now()).recordVersion,
    body: {
      name: { given: NAME, family: '', prefix: '', additional: '', suffix: '', written: NAME },
      details,
      kept: [],
    },
  });
  for (const layout of LAYOUT_NAMES) {
    const card = await now();
    const ticks = { page: true, file: true, code: false, tag: false };
    const lines = card.lines.map((line) => ({ ...line, ticks }));
    const look = { ...card.look, layout };
    await ask('PUT', `/api/cards/${cardId}`, { baseVersion: card.version, lines, audience: card.audience, look });
    await ask('POST', `/api/cards/${cardId}/publish`, { baseVersion: (await now()).version, address: 'hardest-card' });
    // By night colours alone are others; what axe says of one width it says of the next.
    for (const [width, colorScheme, language, looked] of [
      [320, 'light', 'en', BY_DAY],
      [390, 'dark', 'ar', BY_NIGHT],
      [1440, 'light', 'en', []],
    ] as const) {
      await page.emulateMedia({ colorScheme });
      await page.setExtraHTTPHeaders({ 'Accept-Language': language });
      await page.setViewportSize({ width, height: 800 });
      await page.goto('/c/hardest-card');
      const over = await page.evaluate(() => ({
        sideways: document.documentElement.scrollWidth - document.documentElement.clientWidth,
        // Words cut off by their own box, or covered by what stands beside them.
        cut: [...document.querySelectorAll('h1, main p, dt, dd')]
          .filter((each) => each.scrollWidth > each.clientWidth + 1 && getComputedStyle(each).display !== 'inline')
          .map((each) => each.textContent),
      }));
      expect([layout, width, over]).toEqual([layout, width, { sideways: 0, cut: [] }]);
      const text = await page.locator('body').innerText();
      for (const { number } of details.filter((each) => 'number' in each) as { number: string }[])
        expect([layout, number, text.replace(/[\s\u00a0]/g, '').includes(number)]).toEqual([layout, number, true]);
      if (looked.length === 0) continue;
      expect([layout, width, await violationsOf(page, looked)]).toEqual([layout, width, []]);
    }
  }
});

test('every layout on every screen: nothing sideways, axe finds nothing, by day and night, from the left and the right', async ({
  page,
}) => {
  test.setTimeout(240_000);
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await publish(page, 'every-screen');
  const look = `${page.url().split('?')[0]}/look`;
  for (const layout of LAYOUT_NAMES) {
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.goto(look);
    const choice = page.getByRole('button', { name: new RegExp(`^${capital(layout)}`) });
    if ((await choice.getAttribute('aria-pressed')) !== 'true') {
      await choice.click();
      await saved(page);
      await page.getByRole('button', { name: 'Publish' }).click();
      await page.getByRole('dialog').getByRole('button', { name: 'Publish' }).click();
      await expect(page.getByRole('dialog').getByText(/Revision \d+ is live/)).toBeVisible();
    }
    // By night colours alone are others.
    for (const [width, colorScheme, language, looked] of [
      [320, 'light', 'en', BY_DAY],
      [390, 'dark', 'ar', []],
      [820, 'light', 'en', []],
      [1440, 'dark', 'ar', BY_NIGHT],
    ] as const) {
      await page.emulateMedia({ colorScheme });
      await page.setExtraHTTPHeaders({ 'Accept-Language': language });
      await page.setViewportSize({ width, height: 800 });
      await page.goto('/c/every-screen');
      await expect(page.locator('.save')).toBeVisible();
      const over = await page.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      );
      expect([layout, width, over]).toEqual([layout, width, 0]);
      if (looked.length === 0) continue;
      expect([layout, width, await violationsOf(page, looked)]).toEqual([layout, width, []]);
    }
    await page.setExtraHTTPHeaders({});
    await page.emulateMedia({ colorScheme: 'light' });
  }
});
