import { chromium, type Browser, type BrowserContextOptions, type CDPSession, type Page } from '@playwright/test';
import { CHROMIUM, needChromium } from '../packages';

/** Debian's Chromium without a window, asking nobody for anything. */
export function openBrowser(): Promise<Browser> {
  needChromium();
  return chromium.launch({
    executablePath: CHROMIUM,
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  });
}

/** 1.6 Mbit/s down and 0.72 up with 150 ms between: a phone in a hall with one bar of signal. */
const SLOW_LINE = { offline: false, latency: 150, downloadThroughput: 200_000, uploadThroughput: 90_000 };

/**
 * A phone of 390 by 844 on a slow line, `slower` times slower than this machine. Its pages keep the sum of layout shifts (W3C Layout
 * Instability) in `window.shifted`.
 */
export async function openSlowPhone(
  slower = 1,
  options: BrowserContextOptions = {},
): Promise<{ browser: Browser; page: Page; client: CDPSession }> {
  const browser = await openBrowser();
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, ...options });
  const page = await context.newPage();
  const client = await context.newCDPSession(page);
  await client.send('Network.enable');
  await client.send('Network.emulateNetworkConditions', SLOW_LINE);
  await client.send('Emulation.setCPUThrottlingRate', { rate: slower });
  await page.addInitScript(() => {
    Object.assign(window, { shifted: 0 });
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries() as unknown as { value: number }[])
        (window as unknown as { shifted: number }).shifted += entry.value;
    }).observe({ type: 'layout-shift', buffered: true });
  });
  return { browser, page, client };
}

export const shiftedOn = (page: Page): Promise<number> =>
  page.evaluate(() => (window as unknown as { shifted: number }).shifted);
