import { defineConfig } from '@playwright/test';
import { LANES, ORIGIN, portsOf } from './tests/e2e/ports';

/** A person's browser; the headless one's own name would be kept out of the figures. */
const USER_AGENT =
  'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/131.0.0.0 Safari/537.36';

export default defineConfig({
  testDir: 'tests/e2e',
  fullyParallel: false,
  // A shared machine may stand still for seconds; what is right then comes late.
  expect: { timeout: 40_000 },
  // Each has an application of its own: what one test kills, no other one misses.
  workers: LANES,
  // What measures how long others wait has the machine for itself, at the end.
  projects: [
    { name: 'beside', testIgnore: '**/long/*' },
    { name: 'long', testMatch: '**/long/*.spec.ts', testIgnore: '**/worst.spec.ts' },
    { name: 'alone', testMatch: '**/worst.spec.ts', dependencies: ['long'] },
  ],
  timeout: 240_000,
  forbidOnly: true,
  reporter: [['list'], ['json']],
  use: {
    baseURL: ORIGIN,
    userAgent: USER_AGENT,
    locale: 'en-GB',
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
  webServer: Array.from({ length: LANES }, (_, lane) => ({
    command: 'node --disable-warning=DEP0205 --import tsx tests/e2e/server.ts',
    env: { HEATHLAND_LANE: String(lane) },
    url: `http://127.0.0.1:${portsOf(lane).control}/ready`,
    timeout: 60_000,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 8_000 },
  })),
});
