import { chromium, type Browser } from '@playwright/test';
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
