import { expect, test, type Page } from '@playwright/test';
import { importContact, publish, saved, signUp } from '../person';

/** What has the focus, in words. */
const focused = (page: Page) =>
  page.evaluate(() => {
    const at = document.activeElement!;
    return at === document.body ? 'nothing' : `${at.tagName} ${at.getAttribute('aria-label') ?? at.textContent}`.trim();
  });

/** Never the start of the page: what has the focus once everything has settled. */
async function keepsFocus(page: Page, after: string, on: RegExp) {
  await expect.poll(() => focused(page).then((found) => `${after}: ${found}`)).toMatch(on);
}

test('the ledger is one stop for Tab, with arrows inside (WAI-ARIA Authoring Practices, Grid pattern); an edited cell leads to the next', async ({
  page,
}) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  const grid = page.getByRole('grid', { name: 'Lines of the card' });
  const stops = () =>
    grid.evaluate(
      (table) => [...table.querySelectorAll<HTMLElement>('[data-row]')].filter((each) => each.tabIndex === 0).length,
    );
  expect(await stops()).toBe(1);
  const first = grid.getByRole('button', { name: /^Wording of Phone, work/ });
  await first.focus();
  await page.keyboard.press('ArrowRight');
  await keepsFocus(page, 'right', /INPUT Phone, work on page/);
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('ArrowLeft');
  await keepsFocus(page, 'left', /BUTTON Label of Phone, work/);
  // Back to it from outside: where one was.
  await page.keyboard.press('Tab');
  await page.keyboard.press('Shift+Tab');
  await keepsFocus(page, 'back', /BUTTON Label of Phone, work/);
  expect(await stops()).toBe(1);
  await page.keyboard.press('Enter');
  await page.keyboard.type('Depot');
  await page.keyboard.press('Tab');
  await keepsFocus(page, 'next cell', /BUTTON Wording of Depot/);
  // Up over the name, whose ticks are locks, to the heads of the columns.
  await page.keyboard.press('ArrowRight');
  for (let at = 0; at < 40 && !(await focused(page)).startsWith('BUTTON Page'); at += 1)
    await page.keyboard.press('ArrowUp');
  await keepsFocus(page, 'head', /BUTTON Page/);
});

test('the focus never falls to the start of the page: after removing, undoing, publishing, importing', async ({
  page,
}) => {
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  await keepsFocus(page, 'imported', /H1/);
  const field = page.getByRole('textbox', { name: 'Add a line' });
  await field.fill('https://tarnhope.example/ropes');
  await field.press('Enter');
  await page
    .locator('tr.line')
    .last()
    .getByRole('button', { name: /^More about/ })
    .click();
  await page.getByRole('button', { name: 'Remove this line' }).click();
  await keepsFocus(page, 'removed', /^removed: (?!nothing)/);
  await page.keyboard.press('Control+z');
  await keepsFocus(page, 'undone', /^undone: (?!nothing)/);
  await publish(page, 'keeps-focus');
  await keepsFocus(page, 'published', /Publish/);
  // Its new state moves what stands below it: whoever presses at that moment presses beside.
  await expect(page.getByText('Published, revision 1')).toBeVisible();
  // A block that goes takes its button with it.
  await page.getByRole('button', { name: 'Add a block' }).click();
  await page.getByRole('button', { name: /^About/ }).click();
  await page.getByRole('button', { name: 'Remove the block' }).first().click();
  await keepsFocus(page, 'block removed', /^block removed: (?!nothing)/);
});

test('errors are tied to their fields, whatever screen they are on (WCAG 2.2, 3.3.1)', async ({ page }) => {
  await signUp(page);
  const tied = async (name: string) => {
    const wrong = page.locator('[aria-invalid="true"]:visible').first();
    await expect(wrong).toBeVisible();
    const by = await wrong.getAttribute('aria-describedby');
    await expect(page.locator(`[id="${by}"]`)).toHaveText(/\S/);
    expect([name, by]).toEqual([name, expect.any(String)]);
  };
  await page.getByLabel('Phone', { exact: true }).fill('no number');
  await page.getByRole('button', { name: 'Make record and card' }).click();
  await tied('new person');
  await page.reload();
  await importContact(page, 'phone-export-3.vcf');
  await page.getByRole('button', { name: /^Wording of Phone, work/ }).click();
  await page.keyboard.type('nobody');
  await page.keyboard.press('Enter');
  await tied('cell');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Publish' }).click();
  await page.getByLabel('Short address').fill('!');
  await page.getByRole('dialog').getByRole('button', { name: 'Publish' }).click();
  await tied('short address');
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Look', exact: true }).click();
  await page.getByLabel('Large button, as a value').fill('nice red');
  await page.keyboard.press('Enter');
  await tied('colour');
  await page.goto('/company/settings');
  await page.getByLabel('Imprint').fill('javascript:1');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await tied('settings');
});

test('in the system’s own colours ticks, the chosen layout and what is focused show', async ({ browser }) => {
  const page = await (await browser.newContext({ forcedColors: 'active' })).newPage();
  await signUp(page);
  await importContact(page, 'phone-export-3.vcf');
  const tick = page.getByRole('checkbox', { name: /Phone, work/ }).first();
  const [on, off] = await tick.evaluate((box: HTMLInputElement) => {
    const drawn = () => getComputedStyle(box).appearance;
    return [drawn(), box.checked];
  });
  // Drawn by the system itself, in its own colours.
  expect([on, off]).toEqual(['auto', true]);
  await tick.focus();
  await page.keyboard.press('ArrowDown');
  const ring = await page.evaluate(() => getComputedStyle(document.activeElement!).outlineStyle);
  expect(ring).toBe('solid');
  await page.getByRole('link', { name: 'Look', exact: true }).click();
  const chosen = page.locator('.layouts button[aria-pressed="true"]');
  await expect(chosen).toHaveCSS('outline-style', 'solid');
  await expect(page.locator('.layouts button[aria-pressed="false"]').first()).toHaveCSS('outline-style', 'none');
});

// 320 by 200 CSS pixels are 1280 by 800 at 400 % zoom (WCAG 2.2, 1.4.10).
for (const [width, height] of [
  [320, 200],
  [360, 360],
] as const)
  test(`at ${width} by ${height} nothing that is focused is covered, and nothing scrolls sideways`, async ({
    page,
  }) => {
    await signUp(page);
    await importContact(page, 'phone-export-3.vcf');
    const card = page.url();
    await page.setViewportSize({ width, height });
    for (const path of [card, `${card}/look`, '/people', '/company/settings']) {
      await page.goto(path);
      await page.waitForTimeout(300);
      const covered: string[] = [];
      for (let at = 0; at < 45; at += 1) {
        await page.keyboard.press('Tab');
        const hidden = await page.evaluate(() => {
          const element = document.activeElement as HTMLElement;
          if (element === document.body) return null;
          const { left, top, width: w, height: h } = element.getBoundingClientRect();
          const [x, y] = [left + Math.min(w, innerWidth) / 2, top + Math.min(h, innerHeight) / 2];
          const over = document.elementFromPoint(x, y);
          const seen =
            over && (element.contains(over) || over.contains(element) || over.closest('label')?.contains(element));
          return seen
            ? null
            : `${element.tagName} ${element.getAttribute('aria-label') ?? element.textContent} below ${over?.className}`;
        });
        if (hidden) covered.push(hidden);
      }
      expect([path, covered]).toEqual([path, []]);
      const wider = await page.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      );
      expect([path, wider]).toEqual([path, 0]);
    }
  });

test('forms can be typed into before their script has come, and lose nothing', async ({ page }) => {
  await signUp(page);
  let release = () => {};
  const held = new Promise<void>((resolve) => (release = resolve));
  await page.route('**/_next/static/**/*.js', async (route) => {
    await held;
    await route.continue();
  });
  await page.reload({ waitUntil: 'commit' });
  await page.getByLabel('Job title').fill('Lead rope inspector');
  await page.getByLabel('Phone', { exact: true }).fill('020 7946 0199');
  release();
  await expect(page.getByRole('button', { name: 'Make record and card' })).toBeEnabled();
  await page.waitForTimeout(1_500);
  await expect(page.getByLabel('Job title')).toHaveValue('Lead rope inspector');
  await page.getByLabel('Name', { exact: true }).fill('Corin Hathersage');
  await page.getByRole('button', { name: 'Make record and card' }).click();
  await page.waitForURL('**/cards/*');
  await expect(page.getByText('Lead rope inspector').first()).toBeVisible();
  await expect(page.getByText('+44 20 7946 0199').first()).toBeVisible();
});

test('what is pressed, ticked and chosen before the script of a page has come is done once it is there, and once only', async ({
  page,
}) => {
  await signUp(page);
  const meanwhile = async (path: string, act: () => Promise<void>) => {
    let release = () => {};
    const held = new Promise<void>((resolve) => (release = resolve));
    await page.route('**/_next/static/**/*.js', async (route) => {
      await held;
      await route.continue();
    });
    await page.goto(path, { waitUntil: 'commit' });
    await act();
    release();
    await page.waitForLoadState();
    await page.unroute('**/_next/static/**/*.js');
  };
  await meanwhile('/people', () =>
    page.getByLabel('Contact file').setInputFiles('tests/fixtures/contacts/phone-export-3.vcf'),
  );
  await page.waitForURL('**/cards/*');
  const card = page.url().split('?')[0]!;
  const ground = page.getByRole('region', { name: 'Ground of the band' });
  const to = ground.getByRole('textbox', { name: 'To, as a value' });
  await meanwhile(`${card}/look`, async () => {
    // Pressed twice out of impatience.
    await ground.getByRole('button', { name: 'Gradient' }).click();
    await ground.getByRole('button', { name: 'Gradient' }).click();
    await page.getByRole('combobox', { name: 'What is shown' }).selectOption({ index: 2 });
    await expect(to).toBeHidden();
  });
  await expect(to).toBeVisible();
  await expect(page.locator('.look-page.night')).toBeVisible();
  await saved(page);
  // From then on a press is a press.
  await ground.getByRole('button', { name: 'Plain' }).click();
  await expect(to).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(to).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(to).toBeHidden();
  await page.goto(card);
  const tick = page.getByRole('row').getByRole('checkbox', { disabled: false }).first();
  const was = await tick.isChecked();
  await meanwhile(card, async () => {
    await tick.click();
    expect(await tick.isChecked()).toBe(was);
  });
  await expect(tick).toBeChecked({ checked: !was });
  await saved(page);
  // What this browser kept and the server does not have comes back with the script: an early press says what it wanted, and turns no box round.
  await page.route('**/api/cards/**', (route) =>
    route.request().method() === 'GET' ? route.continue() : route.abort(),
  );
  await tick.click();
  await expect(tick).toBeChecked({ checked: was });
  await meanwhile(card, async () => {
    await expect(tick).toBeChecked({ checked: !was });
    await tick.click();
  });
  await expect(page.getByText('Not saved')).toBeVisible();
  await page.waitForTimeout(1_000);
  await expect(tick).toBeChecked({ checked: was });
});
