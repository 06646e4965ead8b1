import { settings, transportHeaders } from '@/server/env';

/** Paths of the studio that answer programs, not with pages. */
export const isInterface = (url: string): boolean => url.startsWith('/api/');

/**
 * The security headers of what answers programs. Pages have theirs, with a nonce, from src/proxy.ts, which Next.js runs only when all of
 * a body is there and kept twice: a large file would hold the thread when its last byte comes.
 */
export const interfaceHeaders = (): Record<string, string> => ({
  'Content-Security-Policy':
    "default-src 'none'; style-src 'unsafe-inline'; img-src data:; frame-ancestors 'none'; base-uri 'none'",
  'X-Content-Type-Options': 'nosniff',
  'X-Frame-Options': 'DENY',
  'Referrer-Policy': 'same-origin',
  'Cross-Origin-Opener-Policy': 'same-origin',
  ...transportHeaders(settings().BASE_URL),
});
