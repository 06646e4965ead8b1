import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from '@playwright/test';

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

/** What axe can tell of WCAG 2.2, A and AA; and of that what colours alone decide, since by night all else is as it is by day. */
export const BY_DAY = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];
export const BY_NIGHT = ['wcag143', 'wcag141'];

/**
 * What axe finds wrong with a page, or with the dialog that stands over it, since what lies behind was looked at by itself: rule and place of each. Frames are
 * left out, since the specimen's runs no script.
 */
export async function violationsOf(page: Page, tags: readonly string[]): Promise<string[]> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(AXE);
  return page.evaluate(
    async (values) => {
      const { axe } = window as unknown as { axe: typeof import('axe-core') };
      const { violations } = await axe.run(document.querySelector<HTMLElement>('.modal.show') ?? document, {
        iframes: false,
        preload: false,
        resultTypes: ['violations'],
        runOnly: { type: 'tag', values },
      });
      return violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ target }) => target.join(' ')).join(', ')}`);
    },
    [...tags],
  );
}
